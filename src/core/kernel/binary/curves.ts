import type { Bytes } from "./bytes";

/** A curve in the coordinates of where it is used: two numbers a point on a surface, three in space. */
export type Curve =
  | { kind: "line"; at: readonly number[]; way: readonly number[] }
  /** at + major · cos t · x + minor · sin t · y; a circle has both radii equal. */
  | ({ kind: "circle" | "ellipse"; major: number; minor: number } & Record<"at" | "x" | "y", readonly number[]>)
  /** Any other: what is asked of it is asked of the library. */
  | { kind: "spline" | "other" };

const [LINE, CIRCLE, ELLIPSE, PARABOLA, HYPERBOLA, BEZIER, SPLINE, TRIMMED, OFFSET] = [1, 2, 3, 4, 5, 6, 7, 8, 9];

/** Reads a curve. @param size numbers to a point: 2 or 3. */
export function readCurve(bytes: Bytes, size: 2 | 3): Curve {
  const kind = bytes.byte();
  const point = () => bytes.reals(size);
  // In space a conic's axis is written before its two directions; it is their product.
  const directions = () => {
    const at = point();
    if (size === 3) bytes.skip(24);
    return { at, x: point(), y: point() };
  };
  switch (kind) {
    case LINE:
      return { kind: "line", at: point(), way: point() };
    case CIRCLE: {
      const frame = directions();
      const radius = bytes.real();
      return { kind: "circle", ...frame, major: radius, minor: radius };
    }
    case ELLIPSE:
      return { kind: "ellipse", ...directions(), major: bytes.real(), minor: bytes.real() };
    case PARABOLA:
      directions();
      bytes.skip(8);
      return { kind: "other" };
    case HYPERBOLA:
      directions();
      bytes.skip(16);
      return { kind: "other" };
    case BEZIER: {
      const rational = bytes.byte();
      const degree = bytes.short();
      bytes.skip((degree + 1) * 8 * (size + (rational ? 1 : 0)));
      return { kind: "spline" };
    }
    case SPLINE: {
      const rational = bytes.byte();
      bytes.skip(3);
      const [poles, knots] = [bytes.integer(), bytes.integer()];
      bytes.skip(poles * 8 * (size + (rational ? 1 : 0)) + knots * 12);
      return { kind: "spline" };
    }
    case TRIMMED:
      bytes.skip(16);
      return readCurve(bytes, size);
    case OFFSET:
      bytes.skip(size === 3 ? 32 : 8);
      readCurve(bytes, size);
      return { kind: "other" };
    default:
      throw new Error(`The shape's record has a curve of kind ${kind}.`);
  }
}
