/** Nodes (one of each pair ±x) and weights of Gauss–Legendre integration with eight points (Abramowitz & Stegun, 25.4). */
const EIGHT = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;

/**
 * Integrates several functions at once over an interval, in equal pieces of eight points: a quarter turn of sines and
 * cosines is exact to rounding in one piece.
 * @param values the functions' values at a place, always as many.
 */
export function integrate(
  from: number,
  to: number,
  pieces: number,
  values: (t: number) => readonly number[],
): number[] {
  const sums: number[] = [];
  const half = (to - from) / pieces / 2;
  for (let piece = 0; piece < pieces; piece++) {
    const middle = from + (2 * piece + 1) * half;
    for (const [node, weight] of EIGHT)
      for (const t of [middle - node * half, middle + node * half])
        values(t).forEach((value, i) => {
          sums[i] = (sums[i] ?? 0) + value * weight * half;
        });
  }
  return sums;
}
