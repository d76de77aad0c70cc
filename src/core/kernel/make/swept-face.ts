import { volumeOf } from "../facts/mass";
import { direction, point } from "../library/geometry";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { ownHandle, type Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";

/** From so many radians on a turn is a whole one. */
const WHOLE = 2 * Math.PI - 1e-12;

/**
 * The solid that a face sweeps when it moves straight, mm. The face has to be such that no line along the way meets it twice, and
 * none of it may lie along the way.
 */
export function drawnFace(face: Shape, by: Vec3): Shape {
  return scoped((scope) => {
    const oc = lib();
    const way = scope.use(new oc.gp_Vec(...by));
    return rightSideOut(scope.use(scope.use(new oc.BRepPrimAPI_MakePrism(face, way, true, true)).Shape()));
  });
}

/** The solid that a face sweeps when it turns about an axis, radians; all round from a whole turn on. No circle about the axis may meet the face twice. */
export function turnedFace(face: Shape, at: Vec3, axis: Vec3, angle: number): Shape {
  return scoped((scope) => {
    const oc = lib();
    const about = scope.use(new oc.gp_Ax1(point(scope, at), direction(scope, axis)));
    const maker = scope.use(
      Math.abs(angle) >= WHOLE
        ? new oc.BRepPrimAPI_MakeRevol(face, about, true)
        : new oc.BRepPrimAPI_MakeRevol(face, about, angle, true),
    );
    return rightSideOut(scope.use(maker.Shape()));
  });
}

const rightSideOut = (solid: Shape): Shape => (volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid));
