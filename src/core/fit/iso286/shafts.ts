import { gradeTolerance } from "./grades";
import { FINE_RANGES, RANGES, rangeOf } from "./ranges";

/**
 * Fundamental deviations of shafts, µm, for each of `RANGES`: ISO 286-1:2010, tables 4 and 5 (written from memory, held against
 * the standard's formulas in the tests). Of d to g it is the upper limit, below the nominal size; from k on the lower one, above it.
 */
const BELOW: Readonly<Record<string, readonly number[]>> = {
  d: [20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230],
  e: [14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135],
  f: [6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68],
  g: [2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
};
const ABOVE: Readonly<Record<string, readonly number[]>> = {
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
};
/** Those that go in finer ranges. */
const FINE: Readonly<Record<string, readonly number[]>> = {
  r: [10, 15, 19, 23, 23, 28, 28, 34, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132],
  s: [14, 19, 23, 28, 28, 35, 35, 43, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170, 190, 208, 232, 252],
};
/** Of k the deviation holds for these grades; for others it is 0. */
const K_GRADES = [4, 7] as const;

export const SHAFT_LETTERS = [...Object.keys(BELOW), "js", ...Object.keys(ABOVE), ...Object.keys(FINE)];

/** How far a shaft's limits are from its nominal size, µm. */
export interface Deviations {
  lower: number;
  upper: number;
}

/** What a letter gives a shaft, of which the other limit lies a grade's tolerance off. @param size mm */
export function shaftDeviations(letter: string, grade: number, size: number): Deviations | null {
  const width = gradeTolerance(grade, size);
  if (width === null) return null;
  if (letter === "js") return { lower: -width / 2, upper: width / 2 };
  const below = BELOW[letter]?.[rangeOf(size, RANGES)];
  if (below !== undefined) return { lower: -below - width, upper: 0 - below };
  const lower = liftOf(letter, grade, size);
  return lower === null ? null : { lower, upper: lower + width };
}

/** How far the lower limit lies above the nominal size at letters from k on, µm; null for others. @param size mm */
export function liftOf(letter: string, grade: number, size: number): number | null {
  if (letter === "k" && (grade < K_GRADES[0] || grade > K_GRADES[1])) return 0;
  return ABOVE[letter]?.[rangeOf(size, RANGES)] ?? FINE[letter]?.[rangeOf(size, FINE_RANGES)] ?? null;
}
