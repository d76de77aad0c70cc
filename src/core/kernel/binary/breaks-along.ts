import type { CurvePoint } from "./curve-at";
import type { Curve } from "./curves";
import { breaksOf } from "./spline-data";
import type { Patch } from "./surface-at";

type Points = (t: number) => CurvePoint;

/** In how many places each smooth stretch is looked at for where it crosses another. */
const LOOKS = 8;

/**
 * Where an edge is not smooth on a surface, in order, without its ends: at knots of its image, and where that runs over a place
 * at which the surface is not smooth.
 * @param ofSurface those places, by u and by v.
 */
export function breaksAlong(
  { curve, from, to }: { curve: Curve; from: number; to: number },
  point: Points,
  ofSurface: Patch["breaks"],
): number[] {
  const inside = (list: readonly number[]) =>
    [...new Set(list)].filter((t) => t > from && t < to).sort((a, b) => a - b);
  if (curve.kind === "line") {
    const { at, way } = curve;
    return inside(
      [0, 1].flatMap((i) => (way[i] === 0 ? [] : ofSurface[i]!.map((place) => (place - at[i]!) / way[i]!))),
    );
  }
  const spline = curve.kind === "spline" ? curve.spline?.() : undefined;
  const own = spline ? inside(breaksOf(spline.knots, spline.periodic)) : [];
  return inside([...own, ...crossings([from, ...own, to], point, ofSurface)]);
}

/** Where a curve runs over places at which a surface is not smooth. */
function crossings(ends: readonly number[], point: Points, ofSurface: Patch["breaks"]): number[] {
  const found: number[] = [];
  if (ofSurface.every((places) => places.length === 0)) return found;
  for (let i = 1; i < ends.length; i++)
    for (let k = 0; k < LOOKS; k++) {
      const at = (share: number) => ends[i - 1]! + (ends[i]! - ends[i - 1]!) * share;
      const [low, high] = [at(k / LOOKS), at((k + 1) / LOOKS)];
      const [one, other] = [point(low).at, point(high).at];
      for (const by of [0, 1] as const)
        for (const place of ofSurface[by]) {
          if ((one[by]! - place) * (other[by]! - place) >= 0) continue;
          let [from, to] = [low, high];
          while (to - from > 1e-14 * Math.max(Math.abs(from), Math.abs(to), 1e-6)) {
            const middle = (from + to) / 2;
            if (middle <= from || middle >= to) break;
            if ((point(middle).at[by]! - place) * (one[by]! - place) > 0) from = middle;
            else to = middle;
          }
          found.push(from);
        }
    }
  return found;
}
