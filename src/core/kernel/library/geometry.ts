import { squareTo, type Vec3 } from "../space/vectors";
import { lib } from "./library";
import { type Scope, scoped } from "./scope";
import type { Shape } from "./topology";

// Places, directions and frames as the library takes them; each belongs to the scope that it was made in.

export const point = (scope: Scope, [x, y, z]: Vec3) => scope.use(new (lib().gp_Pnt)(x, y, z));
export const direction = (scope: Scope, [x, y, z]: Vec3) => scope.use(new (lib().gp_Dir)(x, y, z));
export const vector = (scope: Scope, [x, y, z]: Vec3) => scope.use(new (lib().gp_Vec)(x, y, z));
export const frame = (scope: Scope, origin: Vec3, normal: Vec3) =>
  scope.use(new (lib().gp_Ax2)(point(scope, origin), direction(scope, normal), direction(scope, squareTo(normal))));

/** A straight edge between two points. */
export function makeSegment(from: Vec3, to: Vec3): Shape {
  return scoped((scope) => scope.use(new (lib().BRepBuilderAPI_MakeEdge)(point(scope, from), point(scope, to))).Edge());
}
