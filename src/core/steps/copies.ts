import { fail } from "../errors";
import { freeShape, type Shape } from "../kernel";
import type { Body } from "../naming";
import { divideAll, presetFate, settleFates } from "../seam";
import { settleBodies } from "./seam/bodies";
import type { StepContext, StepOutcome } from "./step";

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
    const made = originals.flatMap((original, i) => {
      const operands = [original, ...copies[i]!];
      const division = divideAll(operands);
      try {
        const ids = operands.map(({ id }) => id);
        const settled = settleFates(division.pieces, (piece) => presetFate("union", piece, ids, {}), []);
        const { made: joined, lumps, becomes } = settleBodies(division, settled, [original], context);
        if ((lumps.get("union") ?? 1) > 1)
          context.warn({
            code: "union-apart",
            message: `The copies of ${context.nameOf(original.id)} do not all touch, so they stay ${lumps.get("union")} bodies.`,
            step: context.step,
            bodies: [original.id],
          });
        // Several originals are joined each for itself: their unions are told apart by what they came from.
        const mark = originals.length === 1 ? "" : `:${original.id}`;
        for (const [from, to] of Object.entries(becomes)) heirs[from] = `${to}${mark}`;
        return joined.map((body) => ({ ...body, id: `${body.id}${mark}` }));
      } finally {
        division.free();
      }
    });
    return { made, used: originals.map(({ id }) => id), becomes: heirs };
  } finally {
    for (const copy of copies.flat()) freeShape(copy.shape);
  }
}
