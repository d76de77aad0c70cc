import type { TopoDS_Edge } from "replicad-opencascadejs";
import type { CurveSpan } from "../../curve/span";
import { edgePoint, readPoint } from "../facts/measure";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { asEdge, type Shape } from "../library/topology";
import type { PlaneFrame } from "../space/plane-frame";
import { cross, distance, dot, length, scale, sub, unit, type Vec3 } from "../space/vectors";
import { edgesOfSpans } from "./curve-shape";
import { type BoundaryStep, edgesOf, type PlanarStretch } from "./outline";

/** A path to sweep along: drawn in a plane, a curve in space, or edges of a body one after the other. */
export type Spine =
  | {
      kind: "drawn";
      frame: PlaneFrame;
      places: readonly (readonly [number, number])[];
      stretches: readonly PlanarStretch[];
      path: readonly BoundaryStep[];
    }
  | { kind: "curve"; spans: readonly CurveSpan[] }
  | { kind: "edges"; shape: Shape; chain: readonly ChainLink[] };

/** An edge of a chain, by place in its body, as the chain runs along it. */
export interface ChainLink {
  place: number;
  forwards: boolean;
}

/** A path as the library takes it. Its parts keep their numbers: stretches of a drawing, or places of edges. */
export interface Path {
  /** As the path runs along them. */
  edges: TopoDS_Edge[];
  numbers: number[];
  closed: boolean;
  /** Where it begins, and the way it runs there. */
  start: { at: Vec3; way: Vec3 };
  end: { at: Vec3; way: Vec3 };
  /** The normal of the plane that it lies in; null where it lies in none, or in many. */
  normal: Vec3 | null;
}

/** Edges of a body in the order in which they follow each other; null when they are not one path. */
export function chainOf(shape: Shape, places: readonly number[]): ChainLink[] | null {
  const { edges } = incidenceOf(shape);
  const at = new Map<number, number[]>();
  for (const place of places)
    for (const vertex of edges[place]!.vertices) at.set(vertex, [...(at.get(vertex) ?? []), place]);
  const lone = [...at].filter(([, list]) => list.length === 1).map(([vertex]) => vertex);
  if ([...at.values()].some((list) => list.length > 2) || (lone.length !== 0 && lone.length !== 2)) return null;
  const left = new Set(places);
  const chain: ChainLink[] = [];
  let vertex = lone[0] ?? edges[places[0]!]!.vertices[0]!;
  while (left.size > 0) {
    const next = at.get(vertex)?.find((place) => left.has(place));
    if (next === undefined) return null;
    left.delete(next);
    const [first, last = first] = edges[next]!.vertices as [number, number?];
    const forwards = first === vertex;
    chain.push({ place: next, forwards });
    vertex = forwards ? last : first;
  }
  return chain;
}

/** A path's edges for the library. They belong to the scope. */
export function pathOfSpine(scope: Scope, spine: Spine): Path {
  const oc = lib();
  const drawn = spine.kind === "drawn";
  const { all, links } = partsOf(scope, spine);
  const edges = links.map(({ number, forwards }) => {
    const edge = asEdge(scope, all[number]!);
    // The body's own sense of an edge is the face's business: here only the curve's counts.
    const plain =
      (edge.Orientation() as string) === "TopAbs_REVERSED" ? asEdge(scope, scope.use(edge.Reversed())) : edge;
    return forwards ? plain : asEdge(scope, scope.use(plain.Reversed()));
  });
  const endOf = (edge: TopoDS_Edge, forwards: boolean, first: boolean) => {
    const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
    const t = forwards === first ? curve.FirstParameter() : curve.LastParameter();
    const slope = unit(readPoint(scope, curve.DN(t, 1)));
    return { at: readPoint(scope, curve.Value(t)), way: scale(slope, forwards ? 1 : -1) };
  };
  const start = endOf(edges[0]!, links[0]!.forwards, true);
  const end = endOf(edges.at(-1)!, links.at(-1)!.forwards, false);
  return {
    edges,
    numbers: links.map(({ number }) => number),
    closed: distance(start.at, end.at) < 1e-6,
    start,
    end,
    normal: drawn ? spine.frame.normal : commonNormal(scope, edges),
  };
}

/** The edges that a path is among, and which of them it is, in what sense. */
function partsOf(
  scope: Scope,
  spine: Spine,
): { all: readonly Shape[]; links: { number: number; forwards: boolean }[] } {
  switch (spine.kind) {
    case "drawn":
      return {
        all: edgesOf(scope, spine.frame, spine.places, spine.stretches),
        links: spine.path.map(({ stretch, forwards }) => ({ number: stretch, forwards })),
      };
    case "curve":
      return {
        all: edgesOfSpans(scope, spine.spans),
        links: spine.spans.map((_, number) => ({ number, forwards: true })),
      };
    case "edges":
      return {
        all: edgeHandles(spine.shape),
        links: spine.chain.map(({ place, forwards }) => ({ number: place, forwards })),
      };
  }
}

/** The normal of the one plane that edges lie in. */
function commonNormal(scope: Scope, edges: readonly TopoDS_Edge[]): Vec3 | null {
  const points = edges.flatMap((edge) => Array.from({ length: 9 }, (_, i) => edgePoint(scope, edge, i / 8)));
  const [origin] = points;
  const away = points.map((point) => sub(point, origin!));
  const longest = away.reduce((a, b) => (length(b) > length(a) ? b : a));
  const normal = away.map((v) => cross(longest, v)).reduce((a, b) => (length(b) > length(a) ? b : a));
  if (length(normal) < 1e-9 * length(longest) ** 2) return null;
  const n = unit(normal);
  return away.every((v) => Math.abs(dot(v, n)) < 1e-6) ? n : null;
}

/** A bend of a path. */
export interface Bend {
  /** Which part of the path, by its number. */
  number: number;
  at: Vec3;
  /** mm */
  radius: number;
  /** Towards the middle of the bend, unit. */
  inwards: Vec3;
  /** The way the path runs there, unit. */
  way: Vec3;
}

/** Where parts of a path bend most. Straight parts do not. */
export function bendsOf(spine: Spine): Bend[] {
  return scoped((scope) => {
    const oc = lib();
    const { edges, numbers, normal } = pathOfSpine(scope, spine);
    return edges.flatMap((edge, i) => {
      const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
      if ((curve.GetType() as string) === "GeomAbs_Line") return [];
      const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
      const round = (curve.GetType() as string) === "GeomAbs_Circle";
      const bends = Array.from({ length: round ? 1 : 65 }, (_, k): Bend | null => {
        const t = first + (last - first) * (round ? 0.5 : k / 64);
        const [d, dd] = [readPoint(scope, curve.DN(t, 1)), readPoint(scope, curve.DN(t, 2))];
        const turn = cross(d, dd);
        if (length(turn) < 1e-12 * length(d) ** 3) return null;
        return {
          number: numbers[i]!,
          at: readPoint(scope, curve.Value(t)),
          radius: length(d) ** 3 / length(turn),
          inwards: unit(cross(unit(turn), unit(d))),
          way: unit(d),
        };
      }).filter((bend) => bend !== null);
      // A path in a plane can bend to either side of it: the tightest of each counts.
      const sides = normal ? [1, -1] : [0];
      return sides.flatMap((side) => {
        const here = bends.filter(({ inwards, way }) => side === 0 || dot(cross(way, inwards), normal!) * side > 0);
        return here.length > 0 ? [here.reduce((a, b) => (b.radius < a.radius ? b : a))] : [];
      });
    });
  });
}

/** Where a path begins, the way it runs there, and the normal of its plane where it lies in one. */
export function startOf(spine: Spine): { at: Vec3; way: Vec3; normal: Vec3 | null; closed: boolean } {
  return scoped((scope) => {
    const { start, normal, closed } = pathOfSpine(scope, spine);
    return { ...start, normal, closed };
  });
}

/** A place on a path with the way it runs there: three unit vectors, square to each other, the first along the path. */
export interface Spot {
  at: Vec3;
  frame: [Vec3, Vec3, Vec3];
}

/**
 * Places at equal distances along a path, measured along it: its beginning and end among them; of a closed one, its beginning.
 * Their frames are carried along without turning about the path.
 */
export function spotsAlong(spine: Spine, count: number): Spot[] {
  return scoped((scope) => {
    const oc = lib();
    const { edges, start, normal, closed } = pathOfSpine(scope, spine);
    // Fine enough that lengths between samples are right to about 1e-9 of the whole.
    const runs = edges.map((edge) => {
      const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
      const back = (edge.Orientation() as string) === "TopAbs_REVERSED";
      const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
      const at = (share: number) => (back ? last - (last - first) * share : first + (last - first) * share);
      const speed = (share: number) => length(readPoint(scope, curve.DN(at(share), 1))) * Math.abs(last - first);
      const parts = (curve.GetType() as string) === "GeomAbs_BSplineCurve" ? 256 : 16;
      const reached = [0];
      for (let k = 0; k < parts; k++) reached.push(reached[k]! + simpson(speed, k / parts, (k + 1) / parts));
      return { curve, at, back, speed, parts, reached, long: reached.at(-1)! };
    });
    const total = runs.reduce((sum, { long }) => sum + long, 0);
    let side = normal ?? unit(cross(start.way, Math.abs(start.way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
    return Array.from({ length: count }, (_, i): Spot => {
      let left = (total * i) / (closed ? count : count - 1);
      const run = runs.find(({ long }, r) => {
        if (left <= long + 1e-9 || r === runs.length - 1) return true;
        left -= long;
        return false;
      })!;
      const cell = Math.min(run.parts - 1, Math.max(0, run.reached.findIndex((far) => far >= left - 1e-12) - 1));
      // From the sample before, by Newton's method on the length.
      let share = cell / run.parts;
      for (let round = 0; round < 8; round++) {
        const gone = run.reached[cell]! + simpson(run.speed, cell / run.parts, share);
        share = Math.min(1, Math.max(0, share + (left - gone) / run.speed(share)));
      }
      const t = run.at(share);
      const way = unit(scale(readPoint(scope, run.curve.DN(t, 1)), run.back ? -1 : 1));
      side = unit(sub(side, scale(way, dot(side, way))));
      return { at: readPoint(scope, run.curve.Value(t)), frame: [way, side, cross(way, side)] };
    });
  });
}

/** The integral of a smooth function by Simpson's rule on eight parts. */
function simpson(f: (x: number) => number, from: number, to: number): number {
  const h = (to - from) / 8;
  if (h === 0) return 0;
  const sum = [1, 4, 2, 4, 2, 4, 2, 4, 1].reduce((all, weight, i) => all + weight * f(from + i * h), 0);
  return (sum * h) / 3;
}

/** The turn that takes one frame of unit vectors to another: its axis and angle. */
export function turnBetween(from: Spot["frame"], to: Spot["frame"]): { axis: Vec3; angle: number } {
  // The matrix of the turn is the sum of to ⊗ from; its axis and angle come from its odd part and its trace.
  const m = [0, 1, 2].map((r) => [0, 1, 2].map((c) => to.reduce((sum, v, k) => sum + v[r]! * from[k]![c]!, 0)));
  const odd: Vec3 = [m[2]![1]! - m[1]![2]!, m[0]![2]! - m[2]![0]!, m[1]![0]! - m[0]![1]!];
  const angle = Math.atan2(length(odd) / 2, (m[0]![0]! + m[1]![1]! + m[2]![2]! - 1) / 2);
  if (angle < 1e-12) return { axis: [0, 0, 1], angle: 0 };
  if (length(odd) > 1e-9) return { axis: unit(odd), angle };
  // Half a turn: the axis is what the turn leaves as it is.
  const columns = [0, 1, 2].map(
    (c): Vec3 => [m[0]![c]! + (c === 0 ? 1 : 0), m[1]![c]! + (c === 1 ? 1 : 0), m[2]![c]! + (c === 2 ? 1 : 0)],
  );
  return { axis: unit(columns.reduce((a, b) => (length(b) > length(a) ? b : a))), angle: Math.PI };
}
