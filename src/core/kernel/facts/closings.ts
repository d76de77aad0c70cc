import { type EdgeUse, type FaceStructure, pointsOf, type Structure } from "../binary";

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

/** What is further apart, of an angle or of a length in mm, is no gap but another round. */
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

/** Whether each run ends where another begins: the one after it or before it, as wires are written, or any. */
function isClosed(runs: readonly (Ends | null)[]): boolean {
  const meets = (run: Ends, next: Ends | null | undefined): boolean => {
    if (!next) return false;
    let [far, gap] = [1, 0];
    for (let k = 0; k < run.ends.length; k++) {
      far = Math.max(far, Math.abs(run.ends[k]!));
      gap = Math.max(gap, Math.abs(run.ends[k]! - next.begins[k]!));
    }
    return gap <= LAST_DIGIT * far;
  };
  for (let i = 0; i < runs.length; i++) {
    const run = runs[i];
    if (!run || meets(run, runs[i + 1]) || meets(run, runs[i - 1])) continue;
    if (!runs.some((next) => meets(run, next))) return false;
  }
  return true;
}

/** Where an edge begins and ends in the parameters of its face's surface; null where its image is not to be had by numbers. */
export function imageEnds(image: NonNullable<ReturnType<FaceStructure["image"]>>, way: 1 | -1): Ends | null {
  const point = pointsOf(image.curve);
  return point && endsAlong(point, image.from, image.to, way);
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
