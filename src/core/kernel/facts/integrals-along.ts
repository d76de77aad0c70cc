import { type Curve, pointsOf } from "../binary";
import type { CurvePoint } from "../binary/curve-at";
import { spansOf } from "../binary/spline-data";
import { integrate } from "../space/quadrature";
import type { Vec3 } from "../space/vectors";

const QUARTER = Math.PI / 2;
/** Pieces in which an angle is integrated: a quarter turn is exact to rounding in one. */
export const pieces = (angle: number) => Math.max(1, Math.ceil(Math.abs(angle) / QUARTER - 1e-9));

/**
 * What is integrated, at one place, and how large its integral over the whole stretch is where nothing in it cancels: what
 * rounding is measured by. It is no smaller for a short stretch, since what a curve goes on by there is a difference of places.
 */
export interface Integrand {
  values: number[];
  size: number;
}

/** Integrates along a spline, stretch by stretch; null where that does not settle. */
export function overSpans(
  curve: Extract<Curve, { kind: "spline" }>,
  from: number,
  to: number,
  rough: boolean,
  at: (point: CurvePoint) => Integrand,
): number[] | null {
  const written = curve.spline?.();
  const point = pointsOf(curve);
  if (!written || !point) return null;
  const sums: number[] = [];
  for (const [low, high] of spansOf(written, from, to)) {
    const part = settled(low, high, rough, (t) => at(point(t)));
    if (!part) return null;
    part.forEach((value, i) => {
      sums[i] = (sums[i] ?? 0) + value;
    });
  }
  return sums;
}

/** Integrates over a stretch in ever more parts until two divisions agree, or in one; null where they do not. */
export function settled(from: number, to: number, rough: boolean, at: (t: number) => Integrand): number[] | null {
  let before: number[] | null = null;
  for (let parts = 1; parts <= MOST_PARTS; parts *= 2) {
    let size = 0;
    const now = integrate(from, to, parts, (t) => {
      const found = at(t);
      size = Math.max(size, found.size);
      return found.values;
    });
    if (now.some((value) => !Number.isFinite(value))) return null;
    const most = Math.max(...now.map(Math.abs));
    const allowed = Math.max(AGREE * most, ROUNDING * size);
    if (rough || before?.every((value, i) => Math.abs(value - now[i]!) <= allowed)) return now;
    before = now;
  }
  return null;
}

/** Into how many parts a stretch of a spline is divided at most, and how well two divisions have to agree, relative. */
const MOST_PARTS = 64;
const AGREE = 1e-11;
/** The same, of what the integrand is where nothing in it cancels: along a straight side through the corner all does. */
const ROUNDING = 1e-14;

/** A place, and so much of each of some ways. */
export const combined = (at: Vec3, ...terms: (readonly [number, Vec3])[]): Vec3 => {
  let [x, y, z] = at;
  for (const [by, way] of terms) {
    x += by * way[0];
    y += by * way[1];
    z += by * way[2];
  }
  return [x, y, z];
};
