import { fail, type Trouble } from "../errors";
import { type Body, type Item, isBody } from "../items";
import { notedGap, type Shape, unsoundness, widestGap } from "../kernel";
import { EXACT } from "../tolerance";
import { formatDeviation } from "../units";

/**
 * Holds what a step made against what every body must satisfy, whatever made it: a solid is closed, valid and has room inside;
 * its parts meet as closely as those of what it was made from, or it is said how far they are apart.
 * @param given what the step had to work with: a body that was unsound before is not the step's fault. @param weighed whether
 * the step holds its bodies against the law of sound solids itself.
 * @throws SeamError `unsound`
 */
export function weigh(
  step: string,
  made: readonly Item[],
  given: readonly Item[],
  weighed: boolean,
  warn: (trouble: Trouble) => void,
): void {
  const bodies = made.filter(isBody);
  if (bodies.length === 0) return;
  const before = given.filter(isBody);
  if (!weighed)
    for (const { shape, kind, id } of bodies) {
      const fault = kind === "solid" ? unsoundness(shape, kind) : null;
      if (fault && before.every((body) => unsoundness(body.shape, body.kind) === null))
        fail("unsound", `${WORDS[fault]} Change a value by a little, or build it in another way.`, {
          step,
          bodies: [id],
        });
    }
  if (bodies.every(({ shape }) => notedGap(shape) <= EXACT)) return;
  const limit = Math.max(EXACT, 1.01 * gapOf(before));
  let widest: { body: Body; size: number; at: readonly number[] } | null = null;
  for (const body of bodies) {
    const gap = widestGap(body.shape);
    if (gap && gap.size > limit && gap.size > (widest?.size ?? 0)) widest = { body, ...gap };
  }
  if (!widest) return;
  const { body, size, at } = widest;
  warn({
    code: "approximate",
    message: `What was made is right to ${formatDeviation(size)} only where faces meet here: they lie nearly in each other, or are freely curved. Move one clear of the other, or onto it, to have it closer.`,
    step,
    bodies: [body.id],
    at: [...at] as [number, number, number],
  });
}

const WORDS = {
  open: "What this would make does not close.",
  invalid: "What this would make is no sound solid: faces of it run into each other.",
  "not-finite": "What this would make cannot be measured.",
};

const gapOf = (bodies: readonly { shape: Shape }[]) =>
  Math.max(0, ...bodies.map(({ shape }) => widestGap(shape)?.size ?? 0));
