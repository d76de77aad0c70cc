import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, occurrences, orientation, type Shape } from "../library/topology";
import { cross, scale, unit, type Vec3 } from "../space/vectors";
import { normalNear } from "./distance";

/** A point on an edge of a face, with the direction in the face's surface that leads from the edge into the face. */
export interface Inwards {
  at: Vec3;
  into: Vec3;
}

/**
 * At a few places along an edge, the way from it into a face that it bounds: to the left of the edge as the face's wire
 * runs along it.
 * @param fractions where along the edge's parameter range, 0 to 1.
 * @returns nothing where the face lies on both sides of the edge, or the edge has no direction.
 */
export function inwardsFrom(faceShape: Shape, edgeShape: Shape, fractions: readonly number[]): Inwards[] {
  return scoped((scope) => {
    const oc = lib();
    const uses = occurrences(scope, faceShape, "edge").filter((edge) => edge.IsSame(edgeShape));
    if (uses.length !== 1) return [];
    const sense = orientation(uses[0]!);
    if (sense === 0) return [];
    const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, uses[0]!)));
    const first = curve.FirstParameter();
    const span = curve.LastParameter() - first;
    return fractions.flatMap((fraction) => {
      const p = scope.use(new oc.gp_Pnt());
      const t = scope.use(new oc.gp_Vec());
      curve.D1(first + span * fraction, p, t);
      const along: Vec3 = [sense * t.X(), sense * t.Y(), sense * t.Z()];
      if (Math.hypot(...along) < 1e-12) return [];
      const at: Vec3 = [p.X(), p.Y(), p.Z()];
      const into = cross(normalNear(faceShape, at), unit(along));
      return Math.hypot(...into) < 1e-9 ? [] : [{ at, into: scale(into, 1 / Math.hypot(...into)) }];
    });
  });
}
