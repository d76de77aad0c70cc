import type { Vec3 } from "../vectors";
import type { Bytes } from "./bytes";
import { type Raw, readCurve } from "./curves";

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
  | ({ kind: "extrusion" | "revolution" | "spline" | "offset" } & Raw);

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
    case EXTRUSION:
      bytes.skip(24);
      readCurve(bytes, 3);
      return { kind: "extrusion", digest: bytes.digestSince(start) };
    case REVOLUTION:
      bytes.skip(48);
      readCurve(bytes, 3);
      return { kind: "revolution", digest: bytes.digestSince(start) };
    case BEZIER: {
      const rational = bytes.byte() + bytes.byte() > 0;
      const poles = (bytes.short() + 1) * (bytes.short() + 1);
      bytes.skip(poles * 8 * (rational ? 4 : 3));
      return { kind: "spline", digest: bytes.digestSince(start) };
    }
    case SPLINE: {
      const rational = bytes.byte() + bytes.byte() > 0;
      bytes.skip(6);
      const poles = bytes.integer() * bytes.integer();
      const knots = bytes.integer() + bytes.integer();
      bytes.skip(poles * 8 * (rational ? 4 : 3) + knots * 12);
      return { kind: "spline", digest: bytes.digestSince(start) };
    }
    case RECTANGULAR:
      bytes.skip(32);
      return readSurface(bytes);
    case OFFSET:
      bytes.skip(8);
      readSurface(bytes);
      return { kind: "offset", digest: bytes.digestSince(start) };
    default:
      throw new Error(`The shape's record has a surface of kind ${kind}.`);
  }
}
