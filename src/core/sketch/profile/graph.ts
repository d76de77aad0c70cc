import { type Curve, curvatureAt, distance2, pointAt, scale2, slopeAt, type Vec2 } from "../curves";
import { boxesMeet, boxOf, crossings, SAME, selfCrossings } from "./crossings";

/** A stretch of a curve between two places where something meets it. */
export interface Stretch {
  curve: Curve;
  from: number;
  to: number;
  /** Places, by number; equal for a closed curve that nothing meets. */
  start: number;
  end: number;
}

export interface Graph {
  places: Vec2[];
  stretches: Stretch[];
}

/** Divides curves where they meet. Stretches that lie on each other count once, for the first curve listed. */
export function divide(curves: readonly Curve[]): Graph {
  const places = new Places();
  const cuts: number[][] = curves.map((curve) => (curve.closed ? [] : [0, 1]));
  curves.forEach((a, i) => {
    for (const { s, t } of selfCrossings(a)) cuts[i]!.push(s, t);
  });
  for (const [i, j] of neighbours(curves))
    for (const { s, t } of crossings(curves[i]!, curves[j]!)) {
      cuts[i]!.push(s);
      cuts[j]!.push(t);
    }
  const stretches: Stretch[] = [];
  curves.forEach((curve, i) => {
    const at = [...new Set(cuts[i]!)].sort((a, b) => a - b);
    if (at.length === 0) {
      const start = places.numberOf(pointAt(curve, 0));
      stretches.push({ curve, from: 0, to: 1, start, end: start });
      return;
    }
    const spans: [number, number][] = at.slice(1).map((to, k) => [at[k]!, to]);
    // Round a closed curve the last stretch runs on over where the parameter begins anew.
    if (curve.closed) spans.push([at.at(-1)!, at[0]! + 1]);
    for (const [from, to] of spans) {
      const [start, end] = [places.numberOf(along(curve, from)), places.numberOf(along(curve, to))];
      if (start === end && distance2(along(curve, (from + to) / 2), along(curve, from)) < 2 * SAME) continue;
      stretches.push({ curve, from, to, start, end });
    }
  });
  return { places: places.list, stretches: withoutDoubles(stretches) };
}

/** Every two curves whose boxes meet, the earlier first: found by sweeping over them from left to right. */
function neighbours(curves: readonly Curve[]): [number, number][] {
  const boxes = curves.map(boxOf);
  const order = curves.map((_, i) => i).sort((i, j) => boxes[i]!.min[0] - boxes[j]!.min[0]);
  const found: [number, number][] = [];
  let open: number[] = [];
  for (const i of order) {
    open = open.filter((j) => boxes[j]!.max[0] >= boxes[i]!.min[0] - SAME);
    for (const j of open) if (boxesMeet(boxes[i]!, boxes[j]!)) found.push(i < j ? [i, j] : [j, i]);
    open.push(i);
  }
  return found;
}

/** The point at a parameter that may run past 1 round a closed curve. */
export function along(curve: Curve, t: number): Vec2 {
  return pointAt(curve, wrapped(curve, t));
}

export function wrapped(curve: Curve, t: number): number {
  return curve.closed && t > 1 ? t - 1 : t;
}

/** Places, those nearer than SAME being one. */
class Places {
  readonly list: Vec2[] = [];
  private readonly cells = new Map<string, number[]>();

  numberOf(at: Vec2): number {
    const size = 4 * SAME;
    const [x, y] = [Math.floor(at[0] / size), Math.floor(at[1] / size)];
    for (let i = x - 1; i <= x + 1; i++)
      for (let j = y - 1; j <= y + 1; j++)
        for (const number of this.cells.get(`${i},${j}`) ?? [])
          if (distance2(this.list[number]!, at) < 2 * SAME) return number;
    const number = this.list.length;
    this.list.push(at);
    const key = `${x},${y}`;
    this.cells.set(key, [...(this.cells.get(key) ?? []), number]);
    return number;
  }
}

function withoutDoubles(stretches: readonly Stretch[]): Stretch[] {
  const byEnds = new Map<string, Stretch[]>();
  return stretches.filter((stretch) => {
    const key = [stretch.start, stretch.end].sort((a, b) => a - b).join();
    const same = byEnds.get(key);
    const middle = along(stretch.curve, (stretch.from + stretch.to) / 2);
    if (same?.some((other) => liesOn(other, middle))) return false;
    if (same) same.push(stretch);
    else byEnds.set(key, [stretch]);
    return true;
  });
}

/** Whether the middle of a stretch lies on another between the same ends. */
function liesOn({ curve, from, to }: Stretch, at: Vec2): boolean {
  // Between the same two ends, curves that agree half-way and a third of the way are one: lines, or arcs of one circle.
  const N = 64;
  for (let i = 0; i < N; i++) {
    const [p, q] = [along(curve, from + ((to - from) * i) / N), along(curve, from + ((to - from) * (i + 1)) / N)];
    if (distance2(p, at) + distance2(at, q) - distance2(p, q) < 1e-9 + distance2(p, q) * 1e-3) {
      let [low, high] = [from + ((to - from) * i) / N, from + ((to - from) * (i + 1)) / N];
      for (let round = 0; round < 60; round++) {
        const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
        if (distance2(along(curve, a), at) < distance2(along(curve, b), at)) high = b;
        else low = a;
      }
      if (distance2(along(curve, (low + high) / 2), at) < 2 * SAME) return true;
    }
  }
  return false;
}

/** A stretch walked one way: forwards along its curve, or back. */
export interface Walk {
  stretch: number;
  forwards: boolean;
}

/** How a walk leaves the place where it begins: its direction, and its curvature to tell those that touch apart. */
export function departure({ curve, from, to }: Stretch, forwards: boolean): { angle: number; bend: number } {
  const t = wrapped(curve, forwards ? from : to);
  const slope = forwards ? slopeAt(curve, t) : scale2(slopeAt(curve, t), -1);
  return { angle: Math.atan2(slope[1], slope[0]), bend: (forwards ? 1 : -1) * curvatureAt(curve, t) };
}
