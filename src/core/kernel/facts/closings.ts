import { type EdgeStructure, type EdgeUse, pointsOf, type Structure } from "../binary";

/** A gap in what runs round a face, from where one edge ends to where the next begins: in the coordinates that its ends were given in. */
export interface Closing {
  from: readonly number[];
  to: readonly number[];
}

/** Where an edge begins and ends, as a wire runs along it. */
export interface Ends {
  begins: readonly number[];
  ends: readonly number[];
}

/** What is further apart, of an angle, of a length in mm or of a free surface's own parameter, is no gap but another round. */
const ANOTHER_ROUND = 0.5;

/**
 * The gaps between edges that meet in a corner: a curve, and its image on a surface, are drawn to some 1e-7 mm, or to 1e-4 mm where the
 * library rounds. What is integrated round a face has to go over them, too: a run that does not close gives a sum that depends on where
 * it is seen from. Near a pole of a ball it is off by the ball's radius squared times the angle left out.
 * @param endsOf null for a use that runs along nothing.
 */
export function closings(
  { edges }: Structure,
  uses: readonly EdgeUse[],
  endsOf: (use: EdgeUse, place: number) => Ends | null,
): Closing[] {
  const runs = uses.map((use, place) => (edges[use.edge]!.vertices.length > 0 ? endsOf(use, place) : null));
  // Nearly all close to the last digit.
  if (isClosed(runs)) return [];
  const corners = new Map<number, { ends: (readonly number[])[]; begins: (readonly number[])[] }>();
  const at = (vertex: number) => {
    const known = corners.get(vertex) ?? { ends: [], begins: [] };
    corners.set(vertex, known);
    return known;
  };
  for (const [place, { edge, way }] of uses.entries()) {
    const run = runs[place];
    if (!run) continue;
    const { vertices } = edges[edge]!;
    const [first, last] = [vertices[0]!, vertices.at(-1)!];
    at(way > 0 ? last : first).ends.push(run.ends);
    at(way > 0 ? first : last).begins.push(run.begins);
  }
  const found: Closing[] = [];
  for (const { ends, begins } of corners.values()) {
    const left = [...begins];
    for (const from of ends) {
      const gaps = left.map((to) => to.reduce((sum, value, i) => sum + Math.abs(value - from[i]!), 0));
      const least = Math.min(...gaps);
      if (!(least < ANOTHER_ROUND)) continue;
      const [to] = left.splice(gaps.indexOf(least), 1);
      if (least > 0) found.push({ from, to: to! });
    }
  }
  return found;
}

/** Of the furthest coordinate: what is nearer is at one place. */
const LAST_DIGIT = 1e-13;

/** Whether each run ends where another begins, each at one of its own: the one after it or before it, as wires are written, or any. */
function isClosed(runs: readonly (Ends | null)[]): boolean {
  const taken = new Uint8Array(runs.length);
  const meets = (run: Ends, place: number): boolean => {
    const next = runs[place];
    if (!next || taken[place]) return false;
    let [far, gap] = [1, 0];
    for (let k = 0; k < run.ends.length; k++) {
      far = Math.max(far, Math.abs(run.ends[k]!));
      gap = Math.max(gap, Math.abs(run.ends[k]! - next.begins[k]!));
    }
    if (!(gap <= LAST_DIGIT * far)) return false;
    taken[place] = 1;
    return true;
  };
  return runs.every(
    (run, i) => !run || meets(run, i + 1) || meets(run, i - 1) || runs.some((_, place) => meets(run, place)),
  );
}

/** Where a run along a curve begins and ends, as a wire runs along it; null where the curve is not to be had by numbers. */
export function runEnds({ curve, from, to }: NonNullable<EdgeStructure["curve"]>, way: 1 | -1): Ends | null {
  const point = pointsOf(curve);
  return point && endsAlong(point, from, to, way);
}

/** Where a run begins and ends, along a curve or against it. */
export function endsAlong(
  point: (t: number) => { at: readonly number[] },
  from: number,
  to: number,
  way: 1 | -1,
): Ends {
  const [low, high] = [point(from).at, point(to).at];
  return way > 0 ? { begins: low, ends: high } : { begins: high, ends: low };
}
