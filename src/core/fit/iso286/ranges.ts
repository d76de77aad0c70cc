/**
 * The ranges of nominal size of ISO 286-1:2010, mm, up to 500: "over … up to and including …". Each is named here by where it ends.
 * Deviations from r on go in finer ranges.
 */
export const RANGES = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500] as const;
export const FINE_RANGES = [
  3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500,
] as const;

/** The largest size that the tables here hold, mm. */
export const LARGEST = 500;

/** The place of a size among ranges; −1 where it is none that the tables hold. @param size mm */
export function rangeOf(size: number, ranges: readonly number[]): number {
  return size > 0 ? ranges.findIndex((end) => size <= end) : -1;
}
