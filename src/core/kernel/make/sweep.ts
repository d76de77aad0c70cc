import type { BRepBuilderAPI_TransitionMode, BRepFill_TypeOfContact, TopoDS_Edge } from "replicad-opencascadejs";
import { distanceToPoint } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { edgePoint, isValid, openEdges, readPoint } from "../facts/measure";
import { planeOf } from "../facts/planes";
import { meetsItself } from "../facts/self-contact";
import { direction, point } from "../library/geometry";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import {
  asEdge,
  facesOf,
  freeShape,
  fromList,
  ownHandle,
  type Shape,
  ShapeMap,
  shellOf,
  subshapes,
} from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import { add, cross, dot, scale, sub, turned, unit, type Vec3 } from "../space/vectors";
import { type BoundaryStep, edgesOf, type PlanarStretch } from "./outline";
import { type Path, pathOfSpine, type Spine } from "./spine";

type Place = readonly [number, number];

/** What is swept: drawn in a plane of its own, or about the path, square to where it begins. */
export type SweptSection =
  | {
      kind: "drawn";
      frame: PlaneFrame;
      places: readonly Place[];
      stretches: readonly PlanarStretch[];
      outline: readonly BoundaryStep[];
    }
  /** Diameter, or side (in and square to the path's plane), mm. */
  | { kind: "round" | "square"; size: number };

export interface SweepManner {
  /** square: it turns with the path; same: it keeps its direction. */
  stands: "square" | "same";
  corners: "mitred" | "round";
  /** How much it turns about the path from its beginning to its end, radians. */
  twist: number;
  solid: boolean;
}

/** What a face is: an end, or where it lies: along which part of the path, from which stretch of the section (by number). */
export type SweepFace = "base" | "end" | { along: number; stretch: number };

export interface Swept {
  shape: Shape;
  faces: SweepFace[];
  /** How far its surfaces may be off, mm: 0 where they are exact. */
  deviation: number;
}

/** The solid or sheet that a section sweeps along a path. @returns null when no sound one comes of it. */
export function sweepAlong(spine: Spine, section: SweptSection, manner: SweepManner): Swept | null {
  return scoped((scope) => {
    const oc = lib();
    const path = pathOfSpine(scope, spine);
    const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
    for (const edge of path.edges) wire.Add(edge);
    const maker = scope.use(new oc.BRepOffsetAPI_MakePipeShell(scope.use(wire.Wire())));
    setMode(scope, maker, path, manner);
    const mode = manner.corners === "mitred" ? "BRepBuilderAPI_RightCorner" : "BRepBuilderAPI_RoundCorner";
    maker.SetTransitionMode(mode as unknown as BRepBuilderAPI_TransitionMode);
    const outline = sectionEdges(scope, path, section);
    const profile = scope.use(new oc.BRepBuilderAPI_MakeWire());
    for (const { edge } of outline) profile.Add(edge);
    try {
      maker.Add(scope.use(profile.Wire()), false, false);
      maker.Build(scope.use(new oc.Message_ProgressRange()));
      if (!maker.IsDone() || (manner.solid && !maker.MakeSolid())) return null;
    } catch (cause) {
      if (cause instanceof WebAssembly.RuntimeError) throw cause;
      return null;
    }
    const made = scope.use(maker.Shape());
    const shape = manner.solid
      ? volumeOf(made) < 0
        ? made.Reversed()
        : ownHandle(made)
      : shellOf(subshapes(scope, made, "face"));
    if ((manner.solid && openEdges(shape).length > 0) || !isValid(shape) || meetsItself(shape)) {
      freeShape(shape);
      return null;
    }
    return {
      shape,
      faces: facesBy(scope, shape, path, outline, maker, manner.solid),
      deviation: maker.ErrorOnSurface(),
    };
  });
}

type Maker = InstanceType<ReturnType<typeof lib>["BRepOffsetAPI_MakePipeShell"]>;

function setMode(scope: Scope, maker: Maker, path: Path, { stands, twist }: SweepManner): void {
  const oc = lib();
  if (stands === "same") {
    maker.SetMode(scope.use(new oc.gp_Ax2(point(scope, path.start.at), direction(scope, [0, 0, 1]))));
    return;
  }
  if (twist === 0) {
    if (path.normal) maker.SetMode(direction(scope, path.normal));
    else maker.SetMode(false);
    return;
  }
  const contact = "BRepFill_NoContact" as unknown as BRepFill_TypeOfContact;
  maker.SetMode(twistGuide(scope, path, twist), false, contact);
}

/** How many points of a guide there are for a quarter of a turn: it is then off by less than 1e-6 of its distance. */
const POINTS = 24;

/** A curve that winds round the path: what follows it turns with it. */
function twistGuide(scope: Scope, { edges, start, normal }: Path, twist: number): Shape {
  const oc = lib();
  const curves = edges.map((edge) => ({ curve: scope.use(new oc.BRepAdaptor_Curve(edge)), edge }));
  const lengths = curves.map(({ edge }) => lengthOf(scope, edge));
  const total = lengths.reduce((a, b) => a + b, 0);
  const each = Math.max(
    2,
    Math.ceil(((Math.abs(twist) / (Math.PI / 2)) * POINTS) / edges.length),
    edges.length > 1 ? 12 : 2,
  );
  const points: Vec3[] = [];
  let side = normal ?? unit(cross(start.way, Math.abs(start.way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  let run = 0;
  curves.forEach(({ curve, edge }, i) => {
    const back = (edge.Orientation() as string) === "TopAbs_REVERSED";
    const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
    for (let k = i === 0 ? 0 : 1; k <= each; k++) {
      const share = k / each;
      const t = back ? last - (last - first) * share : first + (last - first) * share;
      const way = unit(scale(readPoint(scope, curve.DN(t, 1)), back ? -1 : 1));
      // The side is carried along without turning about the path; the twist is all that turns it.
      side = unit(sub(side, scale(way, dot(side, way))));
      const angle = (twist * (run + share * lengths[i]!)) / total;
      points.push(add(readPoint(scope, curve.Value(t)), scale(turned(side, way, angle), total / 10)));
    }
    run += lengths[i]!;
  });
  const list = scope.use(new oc.NCollection_Array1_gp_Pnt(1, points.length));
  points.forEach((at, i) => {
    list.SetValue(i + 1, point(scope, at));
  });
  const held = scope.use(new oc.NCollection_HArray1_gp_Pnt(list));
  const through = scope.use(new oc.GeomAPI_Interpolate(held, false, 1e-7));
  through.Perform();
  const edge = scope.use(scope.use(new oc.BRepBuilderAPI_MakeEdge(scope.use(through.Curve()))).Edge());
  return scope.use(scope.use(new oc.BRepBuilderAPI_MakeWire(edge)).Wire());
}

function lengthOf(scope: Scope, edge: TopoDS_Edge): number {
  const properties = scope.use(new (lib().GProp_GProps)());
  lib().BRepGProp.LinearProperties(edge, properties, false, false);
  return properties.Mass();
}

/** The edges of a section, with the number of the stretch that each is. */
function sectionEdges(
  scope: Scope,
  { start, normal }: Path,
  section: SweptSection,
): { edge: TopoDS_Edge; stretch: number }[] {
  const oc = lib();
  if (section.kind === "drawn") {
    const edges = edgesOf(scope, section.frame, section.places, section.stretches);
    return section.outline.map(({ stretch, forwards }) => ({
      edge: asEdge(scope, forwards ? edges[stretch]! : scope.use(edges[stretch]!.Reversed())),
      stretch,
    }));
  }
  const { at, way } = start;
  if (section.kind === "round") {
    const axes = scope.use(new oc.gp_Ax2(point(scope, at), direction(scope, way)));
    const circle = scope.use(new oc.gp_Circ(axes, section.size / 2));
    return [{ edge: scope.use(scope.use(new oc.BRepBuilderAPI_MakeEdge(circle)).Edge()), stretch: 0 }];
  }
  const up = normal ?? unit(cross(way, Math.abs(way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const side = cross(up, way);
  const half = section.size / 2;
  const frame: PlaneFrame = { origin: at, normal: way, x: side };
  const places: Place[] = [
    [-half, -half],
    [half, -half],
    [half, half],
    [-half, half],
  ];
  const stretches = places.map((from, i): PlanarStretch => {
    const to = places[(i + 1) % 4]!;
    return { shape: { kind: "line", from, to }, from: 0, to: 1, start: i, end: (i + 1) % 4 };
  });
  return edgesOf(scope, frame, places, stretches).map((edge, stretch) => ({ edge: asEdge(scope, edge), stretch }));
}

function facesBy(
  scope: Scope,
  shape: Shape,
  path: Path,
  outline: readonly { edge: TopoDS_Edge; stretch: number }[],
  maker: Maker,
  solid: boolean,
): SweepFace[] {
  const generated = (sources: readonly { edge: Shape; number: number }[]) => {
    const map = new ShapeMap<number>();
    for (const { edge, number } of sources)
      for (const face of fromList(scope, scope.use(maker.Generated(edge)))) map.set(face, number);
    return map;
  };
  const bySection = generated(outline.map(({ edge, stretch }) => ({ edge, number: stretch })));
  const byPath = generated(path.edges.map((edge, i) => ({ edge, number: path.numbers[i]! })));
  const middles = path.edges.map((edge, i) => ({ number: path.numbers[i]!, at: edgePoint(scope, edge, 0.5) }));
  const isCap = (face: Shape, { at, way }: Path["start"]) => {
    const plane = planeOf(face);
    return (
      plane !== null &&
      Math.abs(dot(sub(at, plane.origin), plane.normal)) < 1e-6 &&
      Math.abs(dot(plane.normal, way)) > 1e-6
    );
  };
  return facesOf(shape).map((face): SweepFace => {
    const stretch = bySection.get(face);
    if (solid && !path.closed && stretch === undefined) {
      const from = distanceToPoint(face, path.start.at)?.gap ?? 0;
      const to = distanceToPoint(face, path.end.at)?.gap ?? 0;
      if (isCap(face, path.start) || isCap(face, path.end)) return from <= to ? "base" : "end";
    }
    const away = middles.map(({ at }) => distanceToPoint(face, at)?.gap ?? Number.POSITIVE_INFINITY);
    const near = middles[away.indexOf(Math.min(...away))]!.number;
    return { along: byPath.get(face) ?? near, stretch: stretch ?? 0 };
  });
}
