import { lib } from "./library";
import { direction, point, vector } from "./primitives";
import { scoped } from "./scope";
import type { Shape } from "./topology";
import type { Vec3 } from "./vectors";

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
