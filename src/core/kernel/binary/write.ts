import type { Span } from "./contents";
import { SPLINE, type SplineData } from "./spline-data";
import type { Elementary } from "./surfaces";

/** A spline in the parameters of a surface as the library writes it, its kind with it. */
export function writeSpline2({ degree, poles, knots, periodic, weights }: SplineData): Uint8Array {
  if (weights) throw new Error("Only splines without weights are written.");
  const distinct = [...new Set(knots)];
  const bytes = new Uint8Array(1 + 2 + 2 + 8 + poles.length * 16 + distinct.length * 12);
  const view = new DataView(bytes.buffer);
  let at = 0;
  const real = (value: number) => {
    view.setFloat64(at, value, true);
    at += 8;
  };
  const integer = (value: number) => {
    view.setInt32(at, value, true);
    at += 4;
  };
  view.setUint8(0, SPLINE);
  view.setUint8(2, periodic ? 1 : 0);
  view.setUint16(3, degree, true);
  at = 5;
  integer(poles.length);
  integer(distinct.length);
  for (const pole of poles) pole.slice(0, 2).forEach(real);
  for (const knot of distinct) {
    real(knot);
    integer(knots.filter((value) => value === knot).length);
  }
  return bytes;
}

/** The kinds that the library writes before a curve, and before a surface. */
const CURVES = { line: 1, circle: 2, ellipse: 3 } as const;
const SURFACES = { plane: 1, cylinder: 2, cone: 3, sphere: 4, torus: 5 } as const;

/** Numbers as the library writes them, behind a kind where there is one. */
export function writeNumbers(numbers: readonly number[], kind?: number): Uint8Array {
  const first = kind === undefined ? 0 : 1;
  const bytes = new Uint8Array(first + 8 * numbers.length);
  const view = new DataView(bytes.buffer);
  if (kind !== undefined) view.setUint8(0, kind);
  numbers.forEach((value, i) => {
    view.setFloat64(first + 8 * i, value, true);
  });
  return bytes;
}

/** A straight line, in space or in the parameters of a surface. */
export interface LineCurve {
  kind: "line";
  at: readonly number[];
  way: readonly number[];
}

/** A circle, in space or in the parameters of a surface: it runs from `x` to `y`. */
export interface CircleCurve {
  kind: "circle";
  at: readonly number[];
  x: readonly number[];
  y: readonly number[];
  radius: number;
}

/** An ellipse: as wide as `major` along `x`, and as `minor` along `y`. */
export interface EllipseCurve extends Omit<CircleCurve, "kind" | "radius"> {
  kind: "ellipse";
  major: number;
  minor: number;
}

export type WrittenCurve = LineCurve | CircleCurve | EllipseCurve;

/** A curve as the library writes it, its kind with it. */
export function writeCurve(curve: WrittenCurve): Uint8Array {
  const { kind, at } = curve;
  if (kind === "line") return writeNumbers([...at, ...curve.way], CURVES.line);
  const { x, y } = curve;
  const sizes = kind === "circle" ? [curve.radius] : [curve.major, curve.minor];
  // In space the axis stands before its two directions.
  const axis =
    at.length === 3 ? [0, 1, 2].map((i) => x[(i + 1) % 3]! * y[(i + 2) % 3]! - x[(i + 2) % 3]! * y[(i + 1) % 3]!) : [];
  return writeNumbers([...at, ...axis, ...x, ...y, ...sizes], CURVES[kind]);
}

/** An elementary surface as the library writes it, its kind with it. */
export function writeSurface(surface: Elementary): Uint8Array {
  const { kind, at, axis, x, y } = surface;
  return writeNumbers([...at, ...axis, ...x, ...y, ...sizesOf(surface)], SURFACES[kind]);
}

function sizesOf(surface: Elementary): number[] {
  switch (surface.kind) {
    case "plane":
      return [];
    case "cylinder":
    case "sphere":
      return [surface.radius];
    case "cone":
      return [surface.radius, surface.half];
    case "torus":
      return [surface.major, surface.minor];
  }
}

/** A shape's record with other things, each as the library writes it, where some stood. */
export function rewritten(record: Uint8Array, things: Iterable<readonly [Span, Uint8Array]>): Uint8Array {
  const parts: Uint8Array[] = [];
  let done = 0;
  for (const [[from, to], thing] of [...things].sort(([a], [b]) => a[0] - b[0])) {
    parts.push(record.subarray(done, from), thing);
    done = to;
  }
  parts.push(record.subarray(done));
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
