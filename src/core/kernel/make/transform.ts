import { volumeOf } from "../facts/mass";
import { direction, point, vector } from "../library/geometry";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { type Shape, shapeKind } from "../library/topology";
import { add, sub, turned, type Vec3 } from "../space/vectors";

export interface Placement {
  /** Turn first: about this point … */
  about: Vec3;
  /** … and this axis … */
  axis: Vec3;
  /** … by this angle, radians. */
  angle: number;
  /** Then move, mm. */
  by: Vec3;
}

/** A point, turned and moved. */
export const placedPoint = (at: Vec3, { about, axis, angle, by }: Placement): Vec3 =>
  add(add(turned(sub(at, about), axis, angle), about), by);

/** A copy mirrored in a plane. Faces keep their order. */
export function mirrored(shape: Shape, origin: Vec3, normal: Vec3): Shape {
  return scoped((scope) => {
    const oc = lib();
    const mirror = scope.use(new oc.gp_Trsf());
    mirror.SetMirror(scope.use(new oc.gp_Ax2(point(scope, origin), direction(scope, normal))));
    const copy = scope.use(new oc.BRepBuilderAPI_Transform(shape, mirror, true, false)).Shape();
    if (shapeKind(copy) !== "solid" || volumeOf(copy) >= 0) return copy;
    scope.use(copy);
    return copy.Reversed();
  });
}

/** A copy scaled evenly about a point. Faces keep their order, and every surface its kind. */
export function scaled(shape: Shape, about: Vec3, factor: number): Shape {
  return scoped((scope) => {
    const oc = lib();
    const even = scope.use(new oc.gp_Trsf());
    even.SetScale(point(scope, about), factor);
    return scope.use(new oc.BRepBuilderAPI_Transform(shape, even, true, false)).Shape();
  });
}

/** A moved copy. Faces keep their order, so names carry over one by one. */
export function placed(shape: Shape, { about, axis, angle, by }: Placement): Shape {
  return scoped((scope) => {
    const oc = lib();
    const turn = scope.use(new oc.gp_Trsf());
    if (angle !== 0) turn.SetRotation(scope.use(new oc.gp_Ax1(point(scope, about), direction(scope, axis))), angle);
    const move = scope.use(new oc.gp_Trsf());
    move.SetTranslation(vector(scope, by));
    move.Multiply(turn);
    return scope.use(new oc.BRepBuilderAPI_Transform(shape, move, true, false)).Shape();
  });
}
