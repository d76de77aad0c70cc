import { surfaceCentre } from "../../kernel";
import { type Body, comparePlaces } from "../../naming";
import { type Division, earlierKeys, type Joined, joinPieces, type Piece, type Settled } from "../../seam";
import type { StepContext } from "../step";

/**
 * Kept pieces become bodies, groups are joined, and everything gets the id and name that it keeps after an edit.
 * @returns what was made; of how many bodies each group is; and what became of the stock that is one body still, by id, with the ids that pieces would have had before their stock was changed.
 */
export function settleBodies(division: Division, settled: Settled, stock: readonly Body[], context: StepContext) {
  const { step } = context;
  const made: Body[] = [];
  const heirs = new Map<string, Set<string>>();
  const inherit = ({ pieces }: Joined, id: string) => {
    for (const owner of pieces.flatMap((piece) => piece.stock)) {
      const ids = heirs.get(owner);
      if (ids) ids.add(id);
      else heirs.set(owner, new Set([id]));
    }
  };
  const aliases: Record<string, string> = {};
  const lumps = new Map<string, number>();
  const single: Piece[] = [];
  const groups = new Map<string, Piece[]>();
  for (const piece of division.pieces) {
    const { fate, group = "group" } = settled.fates[piece.index]!;
    if (fate === "keep") single.push(piece);
    else if (fate === "group") {
      const list = groups.get(group);
      if (list) list.push(piece);
      else groups.set(group, [piece]);
    }
  }
  const count = new Map<string, number>();
  for (const piece of single) {
    const owner = piece.stock[0]!;
    const several = single.filter((other) => other.stock[0] === owner).length > 1;
    const number = (count.get(owner) ?? 0) + 1;
    count.set(owner, number);
    const [joined] = joinPieces(division, [piece]);
    const id = `${step}:${piece.key}`;
    inherit(joined!, id);
    for (const key of earlierKeys(piece, context.earlier)) aliases[`${step}:${key}`] = id;
    made.push(toBody(joined!, id, { from: owner, suffix: several ? String(number) : "" }));
  }
  for (const [name, pieces] of groups) {
    const joined = joinPieces(division, pieces);
    lumps.set(name, joined.length);
    const order = joined.length > 1 ? byPlace(joined) : joined;
    order.forEach((lump, i) => {
      const number = order.length > 1 ? `.${i + 1}` : "";
      const preset = name === "union" || name === "common";
      const hint = preset
        ? { from: stock[0]!.id, suffix: number ? String(i + 1) : "" }
        : { text: `${name}${number ? ` ${i + 1}` : ""}` };
      const id = `${step}:group:${name}${number}`;
      inherit(lump, id);
      made.push(toBody(lump, id, hint));
    });
    if (joined.length > 1 && name !== "union" && name !== "common")
      context.warn({
        code: "group-apart",
        message: `The pieces of “${name}” do not touch along a face, so they stay ${joined.length} bodies.`,
        step,
      });
  }
  return { made, lumps, becomes: { ...aliases, ...soleHeirs(stock, heirs) } };
}

/** Bodies that went whole, or but for scrap, into one other: what names them later means that one. */
function soleHeirs(stock: readonly Body[], heirs: ReadonlyMap<string, ReadonlySet<string>>): Record<string, string> {
  return Object.fromEntries(
    stock.flatMap(({ id }) => {
      const ids = [...(heirs.get(id) ?? [])];
      return ids.length === 1 ? [[id, ids[0]!]] : [];
    }),
  );
}

function byPlace(joined: Joined[]): Joined[] {
  if (joined.length < 2) return joined;
  const centres = new Map(joined.map((lump) => [lump, surfaceCentre(lump.shape)] as const));
  return [...joined].sort((a, b) => comparePlaces(centres.get(a)!, centres.get(b)!));
}

function toBody({ form, shape, faces }: Joined, id: string, hint: Body["hint"]): Body {
  return { id, kind: form, shape, faces, hint };
}
