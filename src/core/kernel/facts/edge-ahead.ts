import { makeSegment } from "../library/geometry";
import { edgeHandles } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asEdge, type Shape } from "../library/topology";
import { add, diagonal, distance, scale, unit, type Vec3 } from "../space/vectors";
import { boxOf } from "./box";
import { nearest } from "./distance";
import { openPlaces } from "./measure";

/** Both ends of an edge, and at each the way in which it would go on. */
export function edgeEnds(edge: Shape): { at: Vec3; outward: Vec3 }[] {
  return scoped((scope) => {
    const oc = lib();
    const curve = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
    return [curve.FirstParameter(), curve.LastParameter()].map((t, end) => {
      const p = scope.use(new oc.gp_Pnt());
      const along = scope.use(new oc.gp_Vec());
      curve.D1(t, p, along);
      const way = unit([along.X(), along.Y(), along.Z()]);
      return { at: [p.X(), p.Y(), p.Z()] as Vec3, outward: end === 0 ? scale(way, -1) : way };
    });
  });
}

/** mm: what lies nearer meets. */
const MEETS = 1e-5;

/**
 * How far a place on a sheet is from an open edge of it, straight on, mm: 0 where none is met that way; null where the place itself lies
 * on one.
 */
export function openEdgeAhead(sheet: Shape, from: Vec3, along: Vec3): number | null {
  const box = boxOf(sheet);
  const edges = edgeHandles(sheet);
  const open = openPlaces(sheet).map((place) => edges[place]!);
  return scoped((scope) => {
    const run = scope.use(makeSegment(from, add(from, scale(along, 2 * (box ? diagonal(box) : 1)))));
    const met = open.flatMap((edge) => {
      const near = nearest(run, edge);
      return near && near.gap < MEETS ? [distance(from, near.on1)] : [];
    });
    const first = Math.min(...met, Number.POSITIVE_INFINITY);
    if (first < MEETS) return null;
    return Number.isFinite(first) ? first : 0;
  });
}
