import {
  add,
  mirrored,
  mirroredPoint,
  type Placement,
  placed,
  placedPoint,
  type Shape,
  sub,
  turned,
  type Vec3,
} from "../../../kernel";

/** A place where something that is done is done again. */
export interface Elsewhere {
  /** What tells it from the others. */
  mark: string;
  /** A copy of a shape, as it lies there. */
  put(shape: Shape): Shape;
  /** Where a point comes to lie. */
  at(point: Vec3): Vec3;
  /** Where a point was that lies there. */
  back(point: Vec3): Vec3;
}

/** Turned and moved. */
export function placedAt(mark: string, placement: Placement): Elsewhere {
  const { about, axis, angle, by } = placement;
  return {
    mark,
    put: (shape) => placed(shape, placement),
    at: (point) => placedPoint(point, placement),
    back: (point) => add(turned(sub(sub(point, by), about), axis, -angle), about),
  };
}

/** Mirrored in a plane. */
export function mirroredAt(mark: string, origin: Vec3, normal: Vec3): Elsewhere {
  const image = (point: Vec3) => mirroredPoint(point, origin, normal);
  return { mark, put: (shape) => mirrored(shape, origin, normal), at: image, back: image };
}
