import { allEdgeFacts } from "../facts/edges";
import { volumeOf } from "../facts/mass";
import { KernelFault } from "../library/faults";
import { point } from "../library/geometry";
import { edgeHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, compound, fromList, ownHandle, type Shape, ShapeMap, shellOf, subshapes } from "../library/topology";
import { inSpace, type Place, type PlaneFrame } from "../space/plane-frame";
import { add, cross, length, scale, type Vec3 } from "../space/vectors";
import { splineCurve3 } from "./nurbs";

/** A curve in a plane, exactly, with a parameter from 0 to 1; angles in radians from the frame's X. */
export type PlanarCurve =
  | { kind: "line"; from: Place; to: Place }
  | { kind: "arc"; centre: Place; radius: number; start: number; sweep: number }
  | { kind: "ellipse"; centre: Place; major: number; minor: number; turn: number; start: number; sweep: number }
  | { kind: "spline"; poles: { points: readonly Place[]; knots: readonly number[]; degree: number } };

/** Part of a curve between two numbered places. Round a closed curve `to` may run past 1. */
export interface PlanarStretch {
  shape: PlanarCurve;
  from: number;
  to: number;
  start: number;
  end: number;
}

/** A stretch as a boundary runs along it. */
export interface BoundaryStep {
  stretch: number;
  forwards: boolean;
}

/** Edges for stretches; those that meet at a place share its vertex. They belong to the scope. */
export function edgesOf(
  scope: Scope,
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
): Shape[] {
  const oc = lib();
  const vertices = places.map((place) =>
    scope.use(scope.use(new oc.BRepBuilderAPI_MakeVertex(point(scope, inSpace(frame, place)))).Vertex()),
  );
  const axes = (centre: Place, turn: number) => {
    const y = cross(frame.normal, frame.x);
    const lead = add(scale(frame.x, Math.cos(turn)), scale(y, Math.sin(turn)));
    const direction = (v: Vec3) => scope.use(new oc.gp_Dir(...v));
    return scope.use(new oc.gp_Ax2(point(scope, inSpace(frame, centre)), direction(frame.normal), direction(lead)));
  };
  const makerOf = ({ shape, from, to, start, end }: PlanarStretch) => {
    const [a, b] = [vertices[start]!, vertices[end]!];
    switch (shape.kind) {
      case "line":
        return new oc.BRepBuilderAPI_MakeEdge(a, b);
      // Round curves run from the first place to the second as their angle grows.
      case "arc":
        return new oc.BRepBuilderAPI_MakeEdge(scope.use(new oc.gp_Circ(axes(shape.centre, 0), shape.radius)), a, b);
      case "ellipse": {
        // The library wants the longer axis first.
        const swap = shape.minor > shape.major;
        const turn = swap ? shape.turn + Math.PI / 2 : shape.turn;
        const [long, short] = swap ? [shape.minor, shape.major] : [shape.major, shape.minor];
        const ellipse = scope.use(new oc.gp_Elips(axes(shape.centre, turn), long, short));
        return new oc.BRepBuilderAPI_MakeEdge(ellipse, a, b);
      }
      case "spline":
        return new oc.BRepBuilderAPI_MakeEdge(splineCurve(scope, frame, shape.poles), a, b, from, to);
    }
  };
  return stretches.map((stretch) => {
    const maker = scope.use(makerOf(stretch));
    if (!maker.IsDone()) throw new KernelFault("A drawn curve could not be made into an edge.", false);
    return scope.use(maker.Edge());
  });
}

function splineCurve(
  scope: Scope,
  frame: PlaneFrame,
  { points, knots, degree }: { points: readonly Place[]; knots: readonly number[]; degree: number },
) {
  return splineCurve3(
    scope,
    points.map((place) => inSpace(frame, place)),
    knots,
    degree,
  );
}

/** The face that edges of a plane bound. It belongs to the scope. */
export function planarFace(
  scope: Scope,
  frame: PlaneFrame,
  edges: readonly Shape[],
  outline: readonly BoundaryStep[],
  holes: readonly (readonly BoundaryStep[])[],
): Shape {
  const oc = lib();
  const wire = (boundary: readonly BoundaryStep[]) => {
    const maker = scope.use(new oc.BRepBuilderAPI_MakeWire());
    for (const { stretch, forwards } of boundary) {
      const edge = edges[stretch]!;
      maker.Add(asEdge(scope, forwards ? edge : scope.use(edge.Reversed())));
      if (!maker.IsDone()) throw new KernelFault("An outline could not be joined up.", false);
    }
    return scope.use(maker.Wire());
  };
  const plane = scope.use(new oc.gp_Pln(point(scope, frame.origin), scope.use(new oc.gp_Dir(...frame.normal))));
  const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(plane, wire(outline), true));
  for (const hole of holes) maker.Add(wire(hole));
  if (!maker.IsDone()) throw new KernelFault("An outline could not be filled.", false);
  return scope.use(maker.Face());
}

/** A shape drawn out square to its plane; for each face, the stretch that it came from, or which cap it is. */
export interface Drawn {
  shape: Shape;
  sources: (number | "base" | "end")[];
}

/**
 * The solid of a planar region between two heights over its plane (`low` < `high`, mm).
 * @param outline the region's outer boundary; @param holes those of its holes.
 */
export function drawOutSolid(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  outline: readonly BoundaryStep[],
  holes: readonly (readonly BoundaryStep[])[],
  low: number,
  high: number,
): Drawn {
  return scoped((scope) => {
    const oc = lib();
    const base = { ...frame, origin: add(frame.origin, scale(frame.normal, low)) };
    const edges = edgesOf(scope, base, places, stretches);
    const face = planarFace(scope, base, edges, outline, holes);
    const prism = scope.use(new oc.BRepPrimAPI_MakePrism(face, upBy(scope, frame, high - low), false, true));
    const made = new ShapeMap<number | "base" | "end">();
    made.set(scope.use(prism.FirstShape()), "base");
    made.set(scope.use(prism.LastShape()), "end");
    edges.forEach((edge, i) => {
      for (const side of fromList(scope, scope.use(prism.Generated(edge)))) made.set(side, i);
    });
    const solid = scope.use(prism.Shape());
    const shape = volumeOf(solid) < 0 ? solid.Reversed() : ownHandle(solid);
    return { shape, sources: subshapes(scope, shape, "face").map((side) => made.get(side) ?? 0) };
  });
}

/**
 * The sheet that stretches sweep between two heights over their plane. Those that meet share the edge between them.
 * @param senses for each stretch, −1 where its face looks the other way than its direction says.
 */
export function drawOutSheet(
  frame: PlaneFrame,
  places: readonly Place[],
  stretches: readonly PlanarStretch[],
  low: number,
  high: number,
  senses: readonly number[] = [],
): Drawn {
  return scoped((scope) => {
    const oc = lib();
    const base = { ...frame, origin: add(frame.origin, scale(frame.normal, low)) };
    const edges = edgesOf(scope, base, places, stretches);
    const whole = scope.use(compound(edges));
    const prism = scope.use(new oc.BRepPrimAPI_MakePrism(whole, upBy(scope, frame, high - low), false, true));
    const faces: Shape[] = [];
    const sources: number[] = [];
    edges.forEach((edge, i) => {
      for (const side of fromList(scope, scope.use(prism.Generated(edge)))) {
        faces.push(senses[i] === -1 ? scope.use(side.Reversed()) : side);
        sources.push(i);
      }
    });
    return { shape: shellOf(faces), sources };
  });
}

/** The sheet that edges of a shape, by place, sweep along a direction, mm. Edges that lie along it sweep nothing. */
export function sweepEdges(shape: Shape, places: readonly number[], along: Vec3): Shape | null {
  return scoped((scope) => {
    const oc = lib();
    const way = scope.use(new oc.gp_Vec(...along));
    const edges = edgeHandles(shape);
    const facts = allEdgeFacts(shape);
    const swept = places.flatMap((place) => {
      const { direction } = facts[place]!;
      if (facts[place]!.kind === "line" && direction && length(cross(direction, along)) < 1e-9 * length(along))
        return [];
      const prism = scope.use(new oc.BRepPrimAPI_MakePrism(edges[place]!, way, true, true));
      return subshapes(scope, scope.use(prism.Shape()), "face");
    });
    return swept.length > 0 ? shellOf(swept) : null;
  });
}

const upBy = (scope: Scope, { normal }: PlaneFrame, height: number) =>
  scope.use(new (lib().gp_Vec)(normal[0] * height, normal[1] * height, normal[2] * height));
