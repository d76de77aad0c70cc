import { makeSegment, point } from "../library/geometry";
import { lib } from "../library/library";
import { apart } from "../library/reused";
import { scoped } from "../library/scope";
import { asFace, listOf, orientation, type Shape, subshapes } from "../library/topology";
import { add, cross, distance, dot, scale, sub, unit, type Vec3 } from "../space/vectors";
import { readPoint } from "./measure";

export interface Nearest {
  /** mm; 0 where they touch or one contains the other. */
  gap: number;
  on1: Vec3;
  on2: Vec3;
}

/** The smallest distance between two shapes and where it is; null when the library finds none. */
export function nearest(a: Shape, b: Shape): Nearest | null {
  return scoped((scope) => {
    const oc = lib();
    return apart(a, b, (extrema) => {
      if (!extrema.Perform(scope.use(new oc.Message_ProgressRange())) || extrema.NbSolution() === 0) return null;
      return {
        gap: extrema.Value(),
        on1: readPoint(scope, extrema.PointOnShape1(1)),
        on2: readPoint(scope, extrema.PointOnShape2(1)),
      };
    });
  });
}

export function distanceToPoint(shape: Shape, at: Vec3): Nearest | null {
  return scoped((scope) => {
    const vertex = scope.use(scope.use(new (lib().BRepBuilderAPI_MakeVertex)(point(scope, at))).Vertex());
    return nearest(vertex, shape);
  });
}

/** mm: as near to its skin the library says of no point that it lies inside. */
const SKIN = 2e-3;

/** Whether a point lies inside a solid or on its skin. */
export function contains(solid: Shape, at: Vec3): boolean {
  return scoped((scope) => {
    const oc = lib();
    const vertex = scope.use(scope.use(new oc.BRepBuilderAPI_MakeVertex(point(scope, at))).Vertex());
    const gap = apart(vertex, solid, (extrema) => {
      if (!extrema.Perform(scope.use(new oc.Message_ProgressRange()))) return Number.POSITIVE_INFINITY;
      return extrema.InnerSolution() ? 0 : extrema.Value();
    });
    return gap < 1e-7 || (gap < SKIN && isBehindSkin(solid, at, gap));
  });
}

/** Whether a point that lies so near to the skin of a solid lies behind it: against the way in which the nearest faces look. */
function isBehindSkin(solid: Shape, at: Vec3, gap: number): boolean {
  return scoped((scope) => {
    let outwards = 0;
    for (const face of subshapes(scope, solid, "face")) {
      const near = distanceToPoint(face, at);
      if (near && near.gap < gap * (1 + 1e-6)) outwards += dot(sub(at, near.on2), normalNear(face, at));
    }
    return outwards < 0;
  });
}

/** How far a ray from `from` runs inside the solid before it first leaves it, mm; 0 when it leaves at once. */
export function runInside(solid: Shape, from: Vec3, along: Vec3, limit: number): number {
  return scoped((scope) => {
    const oc = lib();
    const segment = scope.use(makeSegment(from, add(from, scale(along, limit))));
    const common = scope.use(new oc.BRepAlgoAPI_Common());
    common.SetArguments(listOf(scope, [segment]));
    common.SetTools(listOf(scope, [solid]));
    common.Build(scope.use(new oc.Message_ProgressRange()));
    if (common.HasErrors()) return 0;
    let run = 0;
    for (const edge of subshapes(scope, scope.use(common.Shape()), "edge")) {
      const ends = subshapes(scope, edge, "vertex").map((v) =>
        readPoint(scope, oc.BRep_Tool.Pnt(scope.use(oc.TopoDS.Vertex(v)))),
      );
      const distances = ends.map((end) => distance(from, end));
      if (Math.min(...distances) < 1e-5) run = Math.max(run, ...distances);
    }
    return run;
  });
}

/** The sheet's unit normal at the place on it nearest to a point. */
export function normalNear(sheet: Shape, at: Vec3): Vec3 {
  return scoped((scope) => {
    const oc = lib();
    let best: { gap: number; normal: Vec3 } | null = null;
    for (const handle of subshapes(scope, sheet, "face")) {
      const face = asFace(scope, handle);
      const gap = distanceToPoint(face, at)?.gap ?? Number.POSITIVE_INFINITY;
      if (best && gap >= best.gap) continue;
      const surface = scope.use(oc.BRep_Tool.Surface(face));
      const projection = scope.use(new oc.GeomAPI_ProjectPointOnSurf(point(scope, at), surface));
      if (projection.NbPoints() === 0) continue;
      const { U, V } = projection.LowerDistanceParameters();
      const adaptor = scope.use(new oc.BRepAdaptor_Surface(face, false));
      const p = scope.use(new oc.gp_Pnt());
      const du = scope.use(new oc.gp_Vec());
      const dv = scope.use(new oc.gp_Vec());
      adaptor.D1(U, V, p, du, dv);
      const normal = unit(cross([du.X(), du.Y(), du.Z()], [dv.X(), dv.Y(), dv.Z()]));
      best = { gap, normal: orientation(face) === -1 ? scale(normal, -1) : normal };
    }
    return best?.normal ?? [0, 0, 1];
  });
}
