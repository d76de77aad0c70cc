import type { FaceStructure } from "../binary";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { cross, type Vec3 } from "../space/vectors";

export interface Plane {
  origin: Vec3;
  normal: Vec3;
}

/** The plane of a face as its shape has it, its normal pointing out of the material; null when the face is not flat. */
export function flatOf({ surface, forward }: FaceStructure): Plane | null {
  if (surface?.kind !== "plane") return null;
  const { at, x, y } = surface;
  const [a, b] = forward ? [x, y] : [y, x];
  const [nx, ny, nz] = cross(a, b);
  // Adding 0 makes −0 a 0.
  return { origin: at, normal: [nx + 0, ny + 0, nz + 0] };
}

/** The plane of a face by its own handle. */
export const planeOf = (face: Shape): Plane | null => flatOf(incidenceOf(face).faces[0]!);

/** `planeOf` for every face, in the order of `subshapes(shape, "face")`. */
export const subshapePlanes = (shape: Shape): (Plane | null)[] => incidenceOf(shape).faces.map(flatOf);
