import { fail } from "../../errors";
import { areaOf, volumeOf } from "../../kernel";
import { type Division, type Piece, type PieceRule, type PresetFate, ruledFate } from "../../seam";
import type { StepContext } from "../evaluation";

/** The ids that each name stands for which a step lists: of stock, of cutters, of faces that cut. */
export type Listed = ReadonlyMap<string, readonly string[]>;

/** The ids that the stock and the cutters of a step stand for, by how they are listed. */
export function listedOf(refs: readonly string[], context: StepContext): Map<string, string[]> {
  const listed = new Map<string, string[]>();
  for (const ref of refs) {
    const ids = context.items([ref]).map(({ id }) => id);
    listed.set(ref, ids);
    for (const id of ids) if (!listed.has(id)) listed.set(id, [id]);
  }
  return listed;
}

/** The fate of each piece before anyone decides on it alone: what rules say of it, else the preset. */
export interface Ruled {
  preset(piece: Piece): PresetFate;
  /** The pieces, by index, that a rule says something of. */
  by: ReadonlySet<number>;
}

/**
 * Lays rules over what a preset says.
 * @throws SeamError `rule-of-nothing` where a rule names what is neither stock nor cutter.
 */
export function ruled(
  rules: readonly PieceRule[],
  { pieces }: Division,
  preset: (piece: Piece) => PresetFate,
  listedBy: () => Listed,
  context: StepContext,
): Ruled {
  if (rules.length === 0) return { preset, by: new Set() };
  const listed = listedBy();
  for (const [i, { where }] of rules.entries()) refuseUnknown(where, i, rules, listed, context);
  const owners = (name: string) => listed.get(name) ?? [];
  const under = (some: readonly PieceRule[]) => pieces.map((piece) => ruledFate(preset, some, piece, sizeOf, owners));
  const found = under(rules);
  for (const [i, rule] of rules.entries()) {
    if (found.some((one) => one.rule === i) || under([rule]).some((one) => one.rule !== null)) continue;
    const rest = rules.filter((_, other) => other !== i);
    context.warn({
      code: "rule-idle",
      message: `No piece is as rule ${i + 1} says, so it decides nothing now.`,
      step: context.step,
      field: "rules",
      others: [{ label: "Leave that rule out", step: context.step, set: { rules: rest } }],
    });
  }
  return {
    preset: (piece) => found[piece.index]!.fate,
    by: new Set(found.flatMap(({ rule }, index) => (rule === null ? [] : [index]))),
  };
}

const sizeOf = ({ form, shape }: Piece) => (form === "solid" ? volumeOf(shape) : areaOf(shape));

function refuseUnknown(
  { stock, sides }: PieceRule["where"],
  place: number,
  rules: readonly PieceRule[],
  listed: Listed,
  { step }: StepContext,
): void {
  const unknown = [...(stock === undefined ? [] : [stock]), ...Object.keys(sides)].find((name) => !listed.has(name));
  if (unknown !== undefined)
    fail(
      "rule-of-nothing",
      `Rule ${place + 1} speaks of “${unknown}”, which is neither stock nor a cutter of this step. Leave the rule out, or pick it again.`,
      {
        step,
        field: "rules",
        repair: { label: "Leave that rule out", step, set: { rules: rules.filter((_, i) => i !== place) } },
      },
    );
}
