import type { Curve } from "./curves";
import { SPLINE, type SplineData } from "./spline-data";

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

/** A line in the parameters of a surface as the library writes it, its kind with it. */
export function writeLine2({ at, way }: Extract<Curve, { kind: "line" }>): Uint8Array {
  const bytes = new Uint8Array(1 + 4 * 8);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, 1);
  [at[0]!, at[1]!, way[0]!, way[1]!].forEach((value, i) => {
    view.setFloat64(1 + 8 * i, value, true);
  });
  return bytes;
}

/** A shape's record with other images of its edges, each as the library writes it. @param spans where those that it has stand in it. */
export function withImages(
  record: Uint8Array,
  spans: ReadonlyMap<Curve, readonly [number, number]>,
  images: ReadonlyMap<Curve, Uint8Array>,
): Uint8Array {
  const parts: Uint8Array[] = [];
  let done = 0;
  for (const [image, [from, to]] of [...spans].sort(([, a], [, b]) => a[0] - b[0])) {
    const written = images.get(image);
    if (!written) continue;
    parts.push(record.subarray(done, from), written);
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
