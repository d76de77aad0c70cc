import { fail } from "../../../errors";
import type { Body } from "../../../items";
import { freeShape, type Shape } from "../../../kernel";
import { divideAll, presetFate, settleFates } from "../../../seam";
import type { StepContext, StepOutcome, Trace } from "../../evaluation";
import { settleBodies } from "../../seam/bodies";
import { putInto } from "../into/put";

/** A copy of a body under names of its own: the mark tells it from the original and from other copies. */
export function copyOf(body: Body, shape: Shape, step: string, mark: string, suffix: string): Body {
  return {
    id: `${step}:${mark}:${body.id}`,
    kind: body.kind,
    shape,
    faces: body.faces.map((name) => `${step}:${mark}:${name}`),
    hint: { from: body.id, suffix },
  };
}

/**
 * Joins each original with its copies. Where they do not touch they stay bodies of their own.
 * @param copies the copies of each original, in the same order. They do not stay themselves.
 */
export function joinedWith(originals: readonly Body[], copies: readonly Body[][], context: StepContext): StepOutcome {
  const sheet = originals.find(({ kind }) => kind !== "solid");
  if (sheet)
    fail("needs-solids", `${context.nameOf(sheet.id)} is a sheet: only solids can be joined. Leave the copies apart.`, {
      step: context.step,
      bodies: [sheet.id],
    });
  try {
    const heirs: Record<string, string> = {};
    const traces: Trace[][] = [];
    const made = originals.flatMap((original, i) => {
      const operands = [original, ...copies[i]!];
      const division = divideAll(operands);
      try {
        const ids = operands.map(({ id }) => id);
        const settled = settleFates(division.pieces, (piece) => presetFate("union", piece, ids, {}), []);
        // Several originals are joined each for itself: their unions are told apart by what they came from.
        const mark = originals.length === 1 ? "" : `:${original.id}`;
        const {
          made: joined,
          lumps,
          becomes,
          traces: own,
        } = settleBodies(division, settled, [original], context, mark);
        if ((lumps.get("union") ?? 1) > 1)
          context.warn({
            code: "union-apart",
            message: `The copies of ${context.nameOf(original.id)} do not all touch, so they stay ${lumps.get("union")} bodies.`,
            step: context.step,
            bodies: [original.id],
          });
        Object.assign(heirs, becomes);
        traces.push(...own);
        return joined;
      } finally {
        division.free();
      }
    });
    return { made, used: originals.map(({ id }) => id), becomes: heirs, traces };
  } finally {
    for (const copy of copies.flat()) freeShape(copy.shape);
  }
}

/**
 * Does again elsewhere what steps did to one body: what they put into it is copied, and put into it as they did.
 * @param places a copy of a tool at each place but its own, with what tells it from the others. @throws SeamError
 */
export function repeatSteps(
  steps: readonly string[],
  places: (tool: Body) => { mark: string; shape: Shape }[],
  context: StepContext,
): StepOutcome {
  const { step } = context;
  if (steps.length === 0) fail("nothing-picked", "Pick the steps to repeat.", { step, field: "steps" });
  const found = steps.map((id) => ({ ...context.toolsOf(id), targets: context.bodies([id]) }));
  const [{ into, targets }] = found as [(typeof found)[number]];
  const same = (other: (typeof found)[number]) =>
    other.into === into &&
    other.targets.length === targets.length &&
    other.targets.every(({ id }) => targets.some((target) => target.id === id));
  if (!found.every(same))
    fail(
      "mixed-steps",
      "The picked steps do different things, or to different bodies. Repeat them one after the other.",
      {
        step,
        field: "steps",
      },
    );
  const copies = found
    .flatMap(({ tools }) => tools)
    .flatMap((tool) => places(tool).map(({ mark, shape }) => copyOf(tool, shape, step, mark, mark)));
  return putInto({ into, as: "solid" }, targets, copies, context);
}
