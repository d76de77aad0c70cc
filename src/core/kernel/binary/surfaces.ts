import type { Vec3 } from "../space/vectors";
import { Bytes } from "./bytes";
import { type Curve, type Raw, readCurve } from "./curves";

/** A surface's own axes: it need not be right-handed. */
export interface SurfaceFrame {
  at: Vec3;
  axis: Vec3;
  x: Vec3;
  y: Vec3;
}

/** A surface. Parameters: u turns about the axis, v runs along it or round it, as the library has them. */
export type SurfaceRecord =
  | ({ kind: "plane" } & SurfaceFrame)
  | ({ kind: "cylinder" | "sphere"; radius: number } & SurfaceFrame)
  /** The radius where v is 0; half the angle at the tip, radians. */
  | ({ kind: "cone"; radius: number; half: number } & SurfaceFrame)
  | ({ kind: "torus"; major: number; minor: number } & SurfaceFrame)
  /** `of` is drawn along `way`: u runs along the curve, v along the way. */
  | ({ kind: "extrusion"; of: Curve; way: Vec3 } & Raw)
  /** `of` turned about an axis: u is the angle, v runs along the curve. */
  | ({ kind: "revolution"; of: Curve; axisAt: Vec3; axisWay: Vec3 } & Raw)
  | ({ kind: "spline"; spline?(): SplineSurface } & Raw)
  /** `of`, each point `by` along the normal away. */
  | ({ kind: "offset"; of: SurfaceRecord; by: number } & Raw);

/** A surface that has a closed form. */
export type Elementary = Extract<SurfaceRecord, SurfaceFrame>;

/** A piecewise polynomial surface, rational where it has weights: as the library writes it. */
export interface SplineSurface {
  degrees: [number, number];
  /** Along u one after the other, of each those along v. */
  poles: Vec3[][];
  weights: number[][] | null;
  /** Every knot as often as it counts. */
  knots: [number[], number[]];
  periodic: [boolean, boolean];
}

const [PLANE, CYLINDER, CONE, SPHERE, TORUS, EXTRUSION, REVOLUTION, BEZIER, SPLINE, RECTANGULAR, OFFSET] = [
  1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11,
];

export function readSurface(bytes: Bytes): SurfaceRecord {
  const start = bytes.place;
  const kind = bytes.byte();
  const point = () => bytes.reals(3) as unknown as Vec3;
  const frame = (): SurfaceFrame => ({ at: point(), axis: point(), x: point(), y: point() });
  switch (kind) {
    case PLANE:
      return { kind: "plane", ...frame() };
    case CYLINDER:
      return { kind: "cylinder", ...frame(), radius: bytes.real() };
    case CONE:
      return { kind: "cone", ...frame(), radius: bytes.real(), half: bytes.real() };
    case SPHERE:
      return { kind: "sphere", ...frame(), radius: bytes.real() };
    case TORUS:
      return { kind: "torus", ...frame(), major: bytes.real(), minor: bytes.real() };
    case EXTRUSION: {
      const way = point();
      const of = readCurve(bytes, 3);
      return { kind: "extrusion", of, way, digest: bytes.digestSince(start) };
    }
    case REVOLUTION: {
      const [axisAt, axisWay] = [point(), point()];
      const of = readCurve(bytes, 3);
      return { kind: "revolution", of, axisAt, axisWay, digest: bytes.digestSince(start) };
    }
    case BEZIER: {
      const rational = bytes.byte() + bytes.byte() > 0;
      const poles = (bytes.short() + 1) * (bytes.short() + 1);
      bytes.skip(poles * 8 * (rational ? 4 : 3));
      const own = bytes.copySince(start);
      return { kind: "spline", digest: bytes.digestSince(start), spline: () => readBezierSurface(own) };
    }
    case SPLINE: {
      const rational = bytes.byte() + bytes.byte() > 0;
      bytes.skip(6);
      const poles = bytes.integer() * bytes.integer();
      const knots = bytes.integer() + bytes.integer();
      bytes.skip(poles * 8 * (rational ? 4 : 3) + knots * 12);
      const own = bytes.copySince(start);
      return { kind: "spline", digest: bytes.digestSince(start), spline: () => readSplineSurface(own) };
    }
    case RECTANGULAR:
      bytes.skip(32);
      return readSurface(bytes);
    case OFFSET: {
      const by = bytes.real();
      const of = readSurface(bytes);
      return { kind: "offset", of, by, digest: bytes.digestSince(start) };
    }
    default:
      throw new Error(`The shape's record has a surface of kind ${kind}.`);
  }
}

/** Reads the numbers of a spline surface from its own bytes. */
function readSplineSurface(own: Uint8Array): SplineSurface {
  const bytes = new Bytes(own);
  bytes.skip(1);
  const rational = bytes.byte() + bytes.byte() > 0;
  const periodic: [boolean, boolean] = [bytes.byte() > 0, bytes.byte() > 0];
  const degrees: [number, number] = [bytes.short(), bytes.short()];
  const [us, vs, uKnots, vKnots] = [bytes.integer(), bytes.integer(), bytes.integer(), bytes.integer()];
  const { poles, weights } = readPoles(bytes, us, vs, rational);
  const knots = (count: number) => {
    const list: number[] = [];
    for (let i = 0; i < count; i++) {
      const [knot, times] = [bytes.real(), bytes.integer()];
      for (let k = 0; k < times; k++) list.push(knot);
    }
    return list;
  };
  return { degrees, poles, weights, knots: [knots(uKnots), knots(vKnots)], periodic };
}

/** The same of a Bézier surface: a spline of one span each way. */
function readBezierSurface(own: Uint8Array): SplineSurface {
  const bytes = new Bytes(own);
  bytes.skip(1);
  const rational = bytes.byte() + bytes.byte() > 0;
  const degrees: [number, number] = [bytes.short(), bytes.short()];
  const { poles, weights } = readPoles(bytes, degrees[0] + 1, degrees[1] + 1, rational);
  const knots = (degree: number) => [0, 1].flatMap((end) => Array<number>(degree + 1).fill(end));
  return { degrees, poles, weights, knots: [knots(degrees[0]), knots(degrees[1])], periodic: [false, false] };
}

function readPoles(bytes: Bytes, us: number, vs: number, rational: boolean): Pick<SplineSurface, "poles" | "weights"> {
  const poles: Vec3[][] = [];
  const weights: number[][] = [];
  for (let i = 0; i < us; i++) {
    poles.push([]);
    weights.push([]);
    for (let j = 0; j < vs; j++) {
      poles[i]!.push(bytes.reals(3) as unknown as Vec3);
      if (rational) weights[i]!.push(bytes.real());
    }
  }
  return { poles, weights: rational ? weights : null };
}
