import { normalNear } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { pointOnFace } from "../facts/on-face";
import { direction, point, vector } from "../library/geometry";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { type Shape, shapeKind } from "../library/topology";
import { add, dot, scale, sub, turned, type Vec3 } from "../space/vectors";

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

/** A point mirrored in a plane. @param normal of length 1. */
export const mirroredPoint = (at: Vec3, origin: Vec3, normal: Vec3): Vec3 =>
  sub(at, scale(normal, 2 * dot(sub(at, origin), normal)));

/** A copy mirrored in a plane, its front where the image of the front is. Faces keep their order. @param normal of length 1. */
export function mirrored(shape: Shape, origin: Vec3, normal: Vec3): Shape {
  return scoped((scope) => {
    const oc = lib();
    const mirror = scope.use(new oc.gp_Trsf());
    mirror.SetMirror(scope.use(new oc.gp_Ax2(point(scope, origin), direction(scope, normal))));
    const copy = scope.use(new oc.BRepBuilderAPI_Transform(shape, mirror, true, false)).Shape();
    const kind = shapeKind(copy);
    // The library turns the faces of a skin round as it has to, a lone face not always.
    const turned = kind === "solid" ? volumeOf(copy) < 0 : kind === "face" && !isImage(shape, copy, origin, normal);
    if (!turned) return copy;
    scope.use(copy);
    return copy.Reversed();
  });
}

/** Whether the normal of a face's mirrored copy is the image of the face's own. */
function isImage(face: Shape, copy: Shape, origin: Vec3, normal: Vec3): boolean {
  const at = pointOnFace(face);
  const image = mirroredPoint(normalNear(face, at), [0, 0, 0], normal);
  return dot(normalNear(copy, mirroredPoint(at, origin, normal)), image) > 0;
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
