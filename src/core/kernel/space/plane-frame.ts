import { add, cross, scale, type Vec3 } from "./vectors";

/** A plane with its own X and Y: Y is the normal turned from X. Both unit vectors. */
export interface PlaneFrame {
  origin: Vec3;
  normal: Vec3;
  x: Vec3;
}

export type Place = readonly [number, number];

/** A point of a plane in space. */
export function inSpace({ origin, normal, x }: PlaneFrame, [u, v]: Place): Vec3 {
  return add(add(origin, scale(x, u)), scale(cross(normal, x), v));
}
