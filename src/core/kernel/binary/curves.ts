import type { Bytes } from "./bytes";
import { readBezier, readSpline, SPLINE, type SplineData } from "./spline-data";

/** A curve in the coordinates of where it is used: two numbers a point on a surface, three in space. */
export type Curve =
  | { kind: "line"; at: readonly number[]; way: readonly number[] }
  /** at + major · cos t · x + minor · sin t · y; a circle has both radii equal. */
  | ({ kind: "circle" | "ellipse"; major: number; minor: number } & ConicFrame)
  /** at + real · cosh t · x + imaginary · sinh t · y: one branch, as a plane cuts a cone steeper than its sides. */
  | ({ kind: "hyperbola"; real: number; imaginary: number } & ConicFrame)
  /** at + t² / (4 · focal) · x + t · y: as a plane along a cone's side cuts it. */
  | ({ kind: "parabola"; focal: number } & ConicFrame)
  /** Any other: what is asked of it is asked of the library. A spline's numbers are at hand, worked out when asked for. */
  | ({ kind: "spline"; spline?(): SplineData } & Raw)
  | ({ kind: "other" } & Raw);

/** A conic's middle (a parabola's vertex) and its two directions. */
type ConicFrame = Record<"at" | "x" | "y", readonly number[]>;

export type Conic = Extract<Curve, ConicFrame>;

/** What is not read in detail: what stands for all of its numbers, and where it was moved to. */
export interface Raw {
  digest: string;
  matrix?: readonly number[];
}

const [LINE, CIRCLE, ELLIPSE, PARABOLA, HYPERBOLA, BEZIER, TRIMMED, OFFSET] = [1, 2, 3, 4, 5, 6, 8, 9];

/** Reads a curve. @param size numbers to a point: 2 or 3. */
export function readCurve(bytes: Bytes, size: 2 | 3): Curve {
  const start = bytes.place;
  const kind = bytes.byte();
  switch (kind) {
    case LINE:
      return { kind: "line", at: bytes.reals(size), way: bytes.reals(size) };
    case CIRCLE:
    case ELLIPSE:
    case PARABOLA:
    case HYPERBOLA: {
      const at = bytes.reals(size);
      bytes.skip(axisBytes(size));
      const [x, y] = [bytes.reals(size), bytes.reals(size)];
      const first = bytes.real();
      if (kind === CIRCLE) return { kind: "circle", at, x, y, major: first, minor: first };
      if (kind === PARABOLA) return { kind: "parabola", at, x, y, focal: first };
      const second = bytes.real();
      if (kind === HYPERBOLA) return { kind: "hyperbola", at, x, y, real: first, imaginary: second };
      return { kind: "ellipse", at, x, y, major: first, minor: second };
    }
    case BEZIER: {
      const rational = bytes.byte();
      const degree = bytes.short();
      bytes.skip((degree + 1) * 8 * (size + (rational ? 1 : 0)));
      const own = bytes.copySince(start);
      return { kind: "spline", digest: bytes.digestSince(start), spline: () => readBezier(own, size) };
    }
    case SPLINE: {
      const rational = bytes.byte();
      bytes.skip(3);
      const [poles, knots] = [bytes.integer(), bytes.integer()];
      bytes.skip(poles * 8 * (size + (rational ? 1 : 0)) + knots * 12);
      const own = bytes.copySince(start);
      return { kind: "spline", digest: bytes.digestSince(start), spline: () => readSpline(own, size) };
    }
    case TRIMMED:
      bytes.skip(16);
      return readCurve(bytes, size);
    case OFFSET:
      bytes.skip(size === 3 ? 32 : 8);
      readCurve(bytes, size);
      return { kind: "other", digest: bytes.digestSince(start) };
    default:
      throw new Error(`The shape's record has a curve of kind ${kind}.`);
  }
}

/** In space a conic's axis is written before its two directions; it is their product. */
const axisBytes = (size: 2 | 3) => (size === 3 ? 24 : 0);
