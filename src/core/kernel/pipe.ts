import type { BRepBuilderAPI_TransitionMode } from "replicad-opencascadejs";
import { distanceToPoint } from "./distance";
import { lib } from "./library";
import { edgePoint, isValid, openEdges, planeOf, readPoint, volumeOf } from "./measure";
import { type BoundaryStep, edgesOf, type PlanarStretch, type PlaneFrame } from "./outline";
import { point } from "./primitives";
import { type Scope, scoped } from "./scope";
import { asEdge, ownHandle, type Shape, subshapes } from "./topology";
import { add, cross, dot, scale, sub, unit, type Vec3 } from "./vectors";

type Place = readonly [number, number];

/** The section of a pipe about its path, mm: a circle, or a square with sides in and square to the path's plane. */
export interface PipeSection {
  kind: "round" | "square";
  /** Diameter, or side. */
  size: number;
}

/** What a face of a pipe is: an end, or along which stretch of the path (by place) it lies. */
export type PipeFace = "base" | "end" | number;

/**
 * The solid that a section sweeps along a path in a plane. Corners are mitred, or rounded about the inner edge's axis.
 * @returns null when the result crosses itself.
 */
export function pipeAlong(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  path: readonly BoundaryStep[],
  section: PipeSection,
  corners: "mitred" | "round",
): { shape: Shape; faces: PipeFace[] } | null {
  return scoped((scope) => {
    const oc = lib();
    const edges = edgesOf(scope, frame, places, stretches);
    const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
    for (const { stretch, forwards } of path)
      wire.Add(asEdge(scope, forwards ? edges[stretch]! : scope.use(edges[stretch]!.Reversed())));
    const maker = scope.use(new oc.BRepOffsetAPI_MakePipeShell(scope.use(wire.Wire())));
    maker.SetMode(scope.use(new oc.gp_Dir(...(frame.normal as [number, number, number]))));
    const mode = corners === "mitred" ? "BRepBuilderAPI_RightCorner" : "BRepBuilderAPI_RoundCorner";
    maker.SetTransitionMode(mode as unknown as BRepBuilderAPI_TransitionMode);
    const start = endOf(scope, edges, path[0]!, true);
    const end = endOf(scope, edges, path.at(-1)!, false);
    maker.Add(sectionWire(scope, start.at, start.way, frame.normal, section), false, false);
    maker.Build(scope.use(new oc.Message_ProgressRange()));
    if (!maker.IsDone() || !maker.MakeSolid()) return null;
    const solid = scope.use(maker.Shape());
    if (openEdges(solid).length > 0 || !isValid(solid)) return null;
    const shape = volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
    const middles = path.map(({ stretch }) => ({ stretch, at: edgePoint(scope, edges[stretch]!, 0.5) }));
    const isCap = (face: Shape, { at, way }: { at: Vec3; way: Vec3 }) => {
      const plane = planeOf(face);
      return (
        plane !== null &&
        Math.abs(Math.abs(dot(plane.normal, way)) - 1) < 1e-9 &&
        Math.abs(dot(sub(at, plane.origin), way)) < 1e-6
      );
    };
    const closed = places.length > 0 && dot(sub(start.at, end.at), sub(start.at, end.at)) < 1e-12;
    const faces = subshapes(scope, shape, "face").map((face): PipeFace => {
      if (!closed && isCap(face, start)) return "base";
      if (!closed && isCap(face, end)) return "end";
      const away = middles.map(({ at }) => distanceToPoint(face, at)?.gap ?? Number.POSITIVE_INFINITY);
      return middles[away.indexOf(Math.min(...away))]!.stretch;
    });
    return { shape, faces };
  });
}

/** Where a path begins or ends, and the way it runs there. */
function endOf(
  scope: Scope,
  edges: readonly Shape[],
  { stretch, forwards }: BoundaryStep,
  first: boolean,
): { at: Vec3; way: Vec3 } {
  const curve = scope.use(new (lib().BRepAdaptor_Curve)(asEdge(scope, edges[stretch]!)));
  const t = forwards === first ? curve.FirstParameter() : curve.LastParameter();
  const slope = unit(readPoint(scope, curve.DN(t, 1)));
  return { at: readPoint(scope, curve.Value(t)), way: scale(slope, forwards ? 1 : -1) };
}

function sectionWire(scope: Scope, at: Vec3, way: Vec3, normal: Vec3, { kind, size }: PipeSection): Shape {
  const oc = lib();
  const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
  if (kind === "round") {
    const axes = scope.use(
      new oc.gp_Ax2(point(scope, at), scope.use(new oc.gp_Dir(...(way as [number, number, number])))),
    );
    const circle = scope.use(new oc.gp_Circ(axes, size / 2));
    wire.Add(scope.use(scope.use(new oc.BRepBuilderAPI_MakeEdge(circle)).Edge()));
    return scope.use(wire.Wire());
  }
  const side = cross(normal, way);
  const corners = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([a, b]) => add(at, add(scale(side, (a! * size) / 2), scale(normal, (b! * size) / 2))));
  corners.forEach((corner, i) => {
    const maker = scope.use(new oc.BRepBuilderAPI_MakeEdge(point(scope, corner), point(scope, corners[(i + 1) % 4]!)));
    wire.Add(scope.use(maker.Edge()));
  });
  return scope.use(wire.Wire());
}
