import { fail } from "../../errors";
import { conicOf, segment } from "../../kernel/make/conic";
import type { GivenCurve, GivenShape, Vec2 } from "../../sketch";

/** A curve of a drawing file, in millimetres with Y upwards. */
export type FileCurve = GivenCurve | { point: Vec2 };

/** What a drawing file holds. */
export interface DrawingFile {
  curves: FileCurve[];
  /** What the file counts in, as it says or as it was taken to. */
  unit: string;
  /** What was left out, approximated, or taken for granted: each a sentence. */
  notes: string[];
}

/** An affine map of the plane: x' = a x + c y + e, y' = b x + d y + f. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0];

/** The map that does `second` after `first`. */
export function followedBy(first: Affine, second: Affine): Affine {
  const [a, b, c, d, e, f] = first;
  const [p, q, r, s, t, u] = second;
  return [a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s, e * p + f * r + t, e * q + f * s + u];
}

export const mapped = ([a, b, c, d, e, f]: Affine, [x, y]: Vec2): Vec2 => [a * x + c * y + e, b * x + d * y + f];

/** The image of a curve: a circle becomes an ellipse where the map stretches. Null where nothing is left of it. */
export function mapCurve(map: Affine, curve: GivenShape): GivenShape | null {
  const [a, b, c, d] = map;
  const turned = ([x, y]: Vec2): Vec2 => [a * x + c * y, b * x + d * y];
  switch (curve.kind) {
    case "line":
      return segment(mapped(map, curve.from), mapped(map, curve.to)) as GivenShape | null;
    case "arc":
    case "ellipse": {
      const { centre, start, sweep } = curve;
      const [major, minor, turn] =
        curve.kind === "arc" ? [curve.radius, curve.radius, 0] : [curve.major, curve.minor, curve.turn];
      const u: Vec2 = [major * Math.cos(turn), major * Math.sin(turn)];
      const v: Vec2 = [-minor * Math.sin(turn), minor * Math.cos(turn)];
      const [first, last] = sweep >= 0 ? [start, start + sweep] : [start + sweep, start];
      return conicOf(mapped(map, centre), turned(u), turned(v), first, last) as GivenShape | null;
    }
    case "spline":
      return { kind: "spline", poles: { ...curve.poles, points: curve.poles.points.map((at) => mapped(map, at)) } };
  }
}

/** The image of whatever a file drew. */
export function mapFileCurve(map: Affine, curve: FileCurve): FileCurve[] {
  if ("point" in curve) return [{ point: mapped(map, curve.point) }];
  if (!curve.exact) return [{ ...curve, points: curve.points.map((at) => mapped(map, at)) }];
  const image = mapCurve(map, curve.curve);
  return image ? [{ exact: true, curve: image }] : [];
}

/** A straight stretch as a file's curve; none where both ends are one. */
export function line(from: Vec2, to: Vec2): FileCurve[] {
  const curve = segment(from, to) as GivenShape | null;
  return curve ? [{ exact: true, curve }] : [];
}

/** A Bézier curve of any degree, by its control points. */
export function bezier(points: readonly Vec2[]): FileCurve {
  const degree = points.length - 1;
  const knots = [...Array<number>(degree + 1).fill(0), ...Array<number>(degree + 1).fill(1)];
  return { exact: true, curve: { kind: "spline", poles: { points, knots, degree } } };
}

/** More than a sketch can take, and than anyone can edit there. */
const MOST_CURVES = 2000;

/** Refuses what is more than that. @throws SeamError */
export function refuseMany(count: number): void {
  if (count <= MOST_CURVES) return;
  fail(
    "drawing-too-large",
    `This file holds ${count.toLocaleString("en")} curves; a sketch takes at most ${MOST_CURVES.toLocaleString("en")}. Save only the outlines that you need, joined where they can be.`,
  );
}
