import type { Deviation } from "../deviation";
import { fail, type Trouble } from "../errors";
import { type Body, type Item, isBody } from "../items";
import { boxOf, notedGap, type Shape, unsoundness, widestGap } from "../kernel";
import { EXACT } from "../tolerance";
import { formatDeviation } from "../units";

/** What a step had to work with. */
export interface Work {
  /** A body that was unsound before is not the step's fault. */
  given: readonly Item[];
  /** What was told to be off while it worked. */
  off: Deviation | null;
  /** Whether the step holds its bodies against the law of sound solids itself. */
  weighed: boolean;
}

/**
 * Holds what a step made against what every body must satisfy, whatever made it: a solid is closed, valid and has room inside;
 * its parts meet as closely as those of what it was made from, and it was divided where its faces cross, or it is said how far it is off.
 * @throws SeamError `unsound`
 */
export function weigh(
  step: string,
  made: readonly Item[],
  { given, off, weighed }: Work,
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
  const worst = worstOf(bodies, before, off);
  if (!worst) return;
  const { body, size, at } = worst;
  warn({
    code: "approximate",
    message: `What was made is right to ${formatDeviation(size)} only where faces meet here: they lie nearly in each other, or are freely curved. Move one clear of the other, or onto it, to have it closer.`,
    step,
    bodies: [body.id],
    at: [...at] as [number, number, number],
  });
}

/** How far the bodies are off at most, and where: null where they are as right as what they were made from. */
function worstOf(bodies: readonly Body[], before: readonly Body[], off: Deviation | null) {
  let worst: { body: Body; size: number; at: readonly number[] } | null = null;
  if (off && off.size > EXACT) worst = { body: bodies.find(({ shape }) => isWithin(off, shape)) ?? bodies[0]!, ...off };
  if (bodies.every(({ shape }) => notedGap(shape) <= EXACT)) return worst;
  const limit = Math.max(EXACT, 1.01 * gapOf(before));
  for (const body of bodies) {
    const gap = widestGap(body.shape);
    if (gap && gap.size > limit && gap.size > (worst?.size ?? 0)) worst = { body, ...gap };
  }
  return worst;
}

function isWithin({ at, size }: Deviation, shape: Shape): boolean {
  const box = boxOf(shape);
  return box !== null && at.every((value, i) => value > box.min[i]! - size && value < box.max[i]! + size);
}

const WORDS = {
  open: "What this would make does not close.",
  invalid: "What this would make is no sound solid: faces of it run into each other.",
  "not-finite": "What this would make cannot be measured.",
};

const gapOf = (bodies: readonly { shape: Shape }[]) =>
  Math.max(0, ...bodies.map(({ shape }) => widestGap(shape)?.size ?? 0));
