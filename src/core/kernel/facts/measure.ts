import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { checked } from "../library/reused";
import { type Scope, scoped } from "../library/scope";
import { asEdge, type Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { edgeLengthAt } from "./arc-length";

type Point = { X(): number; Y(): number; Z(): number; delete(): void };
export function readPoint(scope: Scope, point: Point): Vec3 {
  scope.use(point);
  return [point.X(), point.Y(), point.Z()];
}

export interface OpenEdge {
  /** A point half-way along the edge. */
  at: Vec3;
  /** mm */
  length: number;
}

/**
 * The edges that only one face uses once: where a shell is not closed. A seam of a cylinder, which its one face
 * uses twice, is not open, and neither is a pole.
 */
export function openEdges(shape: Shape): OpenEdge[] {
  const open = openPlaces(shape);
  if (open.length === 0) return [];
  const edges = edgeHandles(shape);
  return scoped((scope) =>
    open.map((place) => ({ at: edgePoint(scope, edges[place]!, 0.5), length: edgeLengthAt(shape, place) })),
  );
}

/** The open edges of a shape, by place. */
export function openPlaces(shape: Shape): number[] {
  return incidenceOf(shape).edges.flatMap(({ point, uses }, place) => (uses === 1 && !point ? [place] : []));
}

/** The point at a fraction (0 to 1) of an edge's parameter range. */
export function edgePoint(scope: Scope, edge: Shape, fraction: number): Vec3 {
  const curve = scope.use(new (lib().BRepAdaptor_Curve)(asEdge(scope, edge)));
  const first = curve.FirstParameter();
  return readPoint(scope, curve.Value(first + (curve.LastParameter() - first) * fraction));
}

/** Whether the library's own full check (topology and geometry) finds no fault. */
export function isValid(shape: Shape): boolean {
  return scoped(() => checked(shape, (check) => check.IsValid()));
}
