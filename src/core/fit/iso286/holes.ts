import { gradeTolerance } from "./grades";
import { type Deviations, liftOf, shaftDeviations } from "./shafts";

/** Up to these grades a hole that is to hold a shaft fast is so much wider that it fits as the shaft of the same letter does in H. */
const WIDENED: Readonly<Record<string, number>> = { K: 8, M: 8, N: 8, P: 7, R: 7, S: 7 };

/**
 * The limits of a hole about its nominal size, µm: ISO 286-1:2010, 4.3.2. Letters up to H, and JS, mirror the shaft's. From K on
 * the upper limit is the shaft's lower one mirrored, moved up by Δ, the difference between this grade's tolerance and the next finer one's, in
 * grades that are fitted so; Δ is 0 up to 3 mm.
 * @param size mm @returns null where the tables hold no such letter, grade or size.
 */
export function holeDeviations(letter: string, grade: number, size: number): Deviations | null {
  const width = gradeTolerance(grade, size);
  if (width === null) return null;
  const limit = WIDENED[letter];
  if (limit === undefined) {
    const shaft = /^([D-H]|JS)$/.test(letter) ? shaftDeviations(letter.toLowerCase(), grade, size) : null;
    return shaft && { lower: 0 - shaft.upper, upper: 0 - shaft.lower };
  }
  const upper = upperOf(letter, grade, size, grade <= limit);
  return upper === null ? null : { lower: upper - width, upper };
}

function upperOf(letter: string, grade: number, size: number, widened: boolean): number | null {
  // In coarse grades K and N end at the nominal size itself: there is no K above 3 mm, and N is as K would be.
  if (letter === "K" && !widened) return size <= 3 ? 0 : null;
  if (letter === "N" && !widened && size > 3) return 0;
  // The one value that the rule does not give: the table's own exception.
  if (letter === "M" && grade === 6 && size > 250 && size <= 315) return -9;
  const lift = liftOf(letter.toLowerCase(), letter === "K" ? 7 : grade, size);
  if (lift === null) return null;
  return (widened && size > 3 ? delta(grade, size) : 0) - lift;
}

/** Grades that Δ is stated for. */
const FITTED = [3, 8] as const;

function delta(grade: number, size: number): number {
  if (grade < FITTED[0] || grade > FITTED[1]) return 0;
  return gradeTolerance(grade, size)! - gradeTolerance(grade - 1, size)!;
}
