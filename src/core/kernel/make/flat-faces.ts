import type { TopAbs_Orientation, TopoDS_Edge } from "replicad-opencascadejs";
import type { EdgeUse } from "../binary";
import { areaOf, volumeOf } from "../facts/mass";
import { isValid, openPlaces } from "../facts/measure";
import { direction, point } from "../library/geometry";
import { edgeHandles, incidenceOf, vertexHandles } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, facesOf, freeShape, type Shape, shapeKind, shellOf } from "../library/topology";
import { add, cross, distance, dot, length, scale, sub, unit, type Vec3 } from "../space/vectors";
import { solidFromFaces } from "./solid-from-faces";

/** How far a corner may be off a face's plane, and an edge off its chord, as a part of where they lie: the last digits only. */
const DIGITS = 1e-12;

interface Flat {
  /** The ring of its edges, seen from outside against the clock. */
  ring: EdgeUse[];
  middle: Vec3;
  normal: Vec3;
}

/**
 * A solid or shell with each free face that is flat in truth, with straight edges, as a flat face: between straight edges of different
 * lengths the library lays a free surface, flat or not, and runs free curves from corner to corner.
 * @returns a shape of the caller's own, its faces in the same order; null where there is none, or no sound solid comes of it.
 */
export function withFlatFaces(body: Shape): Shape | null {
  const { faces, edges } = incidenceOf(body);
  if (!faces.some(({ surface }) => surface?.kind === "spline")) return null;
  return scoped((scope) => {
    const straight = edges.map((_, e) => isStraight(scope, body, e));
    const flats = faces.map((_, f) => flatOf(body, f, straight));
    if (!faces.some(({ surface }, f) => surface?.kind === "spline" && flats[f])) return null;
    // Beside a free or round face an edge has an image there, and stays what it is.
    const lines = new Map<number, TopoDS_Edge>();
    edges.forEach(({ curve, faces: beside, vertices: ends }, e) => {
      if (!curve || curve.curve.kind === "line" || !straight[e] || beside.some((f) => !flats[f])) return;
      const [from, to] = ends.map((v) => vertexHandles(body)[v]!);
      lines.set(e, scope.use(scope.use(new (lib().BRepBuilderAPI_MakeEdge)(from!, to!)).Edge()));
    });
    const made = faces.map(({ surface, forward, wires }, f): { shape: Shape; sign: 1 | -1 } => {
      const flat = flats[f];
      const stays = surface?.kind !== "spline" && !wires.flat().some(({ edge }) => lines.has(edge));
      if (!flat || stays) return { shape: facesOf(body)[f]!, sign: forward ? 1 : -1 };
      return { shape: faceOf(scope, body, flat, lines), sign: 1 };
    });
    const solid = shapeKind(body) === "solid";
    const { shape, order } = solid ? solidFromFaces(made) : sheetFromFaces(scope, made);
    const measure = solid ? volumeOf : areaOf;
    const size = measure(body);
    const sound =
      order.every((f, i) => f === i) &&
      openPlaces(shape).length === openPlaces(body).length &&
      isValid(shape) &&
      Math.abs(measure(shape) - size) <= 1e-6 * Math.abs(size);
    if (sound) return shape;
    freeShape(shape);
    return null;
  });
}

function sheetFromFaces(scope: Scope, faces: readonly { shape: Shape; sign: 1 | -1 }[]) {
  const turned = faces.map(({ shape, sign }) => scope.use(shape.Oriented(sign === 1 ? FORWARD : REVERSED)));
  return { shape: shellOf(turned), order: faces.map((_, f) => f) };
}

/** The plane that a face with straight edges lies in; null where it has others, holes, or lies in none. */
function flatOf(solid: Shape, f: number, straight: readonly boolean[]): Flat | null {
  const { faces, edges, vertices } = incidenceOf(solid);
  const { surface, wires, forward } = faces[f]!;
  const [along, more] = wires;
  if (!along || more || along.length < 3 || along.some(({ edge }) => !straight[edge])) return null;
  if (surface?.kind !== "spline" && surface?.kind !== "plane") return null;
  const ring = forward ? along : along.map((use): EdgeUse => ({ ...use, way: use.way === 1 ? -1 : 1 })).reverse();
  const corners = ring.map(({ edge, way }) => vertices[edges[edge]!.vertices[way === 1 ? 0 : 1]!]!.at);
  const [first] = corners;
  const turns = corners.map((at, i) => cross(sub(at, first!), sub(corners[(i + 1) % corners.length]!, first!)));
  const normal = turns.reduce(add);
  const size = Math.max(...corners.map((at) => distance(at, first!)));
  if (length(normal) < 1e-6 * size * size) return null;
  const n = unit(normal);
  const middle = scale(corners.reduce(add), 1 / corners.length);
  const slack = 1e3 * DIGITS * (1 + Math.max(...corners.map(length)));
  return corners.every((at) => Math.abs(dot(sub(at, middle), n)) <= slack) ? { ring, middle, normal: n } : null;
}

/** Whether an edge runs along the chord between its ends. */
function isStraight(scope: Scope, solid: Shape, e: number): boolean {
  const { curve, vertices, point: pole } = incidenceOf(solid).edges[e]!;
  if (!curve || pole || new Set(vertices).size !== 2) return false;
  if (curve.curve.kind !== "spline") return curve.curve.kind === "line";
  const along = scope.use(new (lib().BRepAdaptor_Curve)(edgeHandles(solid)[e]!));
  const [from, to] = [along.FirstParameter(), along.LastParameter()];
  const at = (fraction: number): Vec3 => {
    const p = scope.use(along.Value(from + (to - from) * fraction));
    return [p.X(), p.Y(), p.Z()];
  };
  const [start, end] = [at(0), at(1)];
  const way = unit(sub(end, start));
  const slack = 1e3 * DIGITS * (1 + length(start) + length(end));
  return [0.13, 0.31, 0.5, 0.77, 0.9].every((fraction) => length(cross(sub(at(fraction), start), way)) <= slack);
}

function faceOf(scope: Scope, solid: Shape, flat: Flat, lines: ReadonlyMap<number, TopoDS_Edge>): Shape {
  const oc = lib();
  const wire = scope.use(new oc.BRepBuilderAPI_MakeWire());
  for (const { edge, way } of flat.ring) {
    const line = lines.get(edge) ?? scope.use(oc.TopoDS.Edge(scope.use(edgeHandles(solid)[edge]!.Oriented(FORWARD))));
    wire.Add(asEdge(scope, way === 1 ? line : scope.use(line.Reversed())));
  }
  const plane = scope.use(new oc.gp_Pln(point(scope, flat.middle), direction(scope, flat.normal)));
  const maker = scope.use(new oc.BRepBuilderAPI_MakeFace(plane, scope.use(wire.Wire()), true));
  return scope.use(maker.Face());
}

const REVERSED = "TopAbs_REVERSED" as TopAbs_Orientation;
const FORWARD = "TopAbs_FORWARD" as TopAbs_Orientation;
