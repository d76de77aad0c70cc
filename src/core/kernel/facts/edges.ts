import type { TopoDS_Edge } from "replicad-opencascadejs";
import { edgeHandles, incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import type { Shape } from "../library/topology";
import { add, cross, distance, length, scale, sub, unit, type Vec3 } from "../space/vectors";
import { edgeLengthAt } from "./arc-length";
import { readPoint } from "./measure";

export type EdgeKind = "line" | "circle" | "ellipse" | "spline" | "other";

const EDGE_KINDS: Record<string, EdgeKind> = {
  GeomAbs_Line: "line",
  GeomAbs_Circle: "circle",
  GeomAbs_Ellipse: "ellipse",
  GeomAbs_BezierCurve: "spline",
  GeomAbs_BSplineCurve: "spline",
};

export interface EdgeFacts {
  kind: EdgeKind;
  /** mm */
  length: number;
  /** Where it begins and ends; equal for a closed edge. */
  ends: [Vec3, Vec3];
  /** A point on it, half-way by its parameter. */
  at: Vec3;
  /** A line's direction, from its first end to its second; a circle's axis. */
  direction?: Vec3;
  /** A circle's centre and radius, mm. */
  centre?: Vec3;
  radius?: number;
}

const known = new WeakMap<Shape, (EdgeFacts | null)[]>();

/** The middle of an edge by its parameter: what `allEdgeFacts` calls `at`, without the rest. */
export function edgeMiddle(shape: Shape, place: number): Vec3 {
  return known.get(shape)?.[place]?.at ?? edgeFacts(shape, place)!.at;
}

/**
 * The lines, by place, at which a round face closes on itself: they bound the face's record, and nobody sees an edge there.
 * A free face may have a crease where it closes, unless it is turned about an axis.
 */
export function closingLines(shape: Shape): Set<number> {
  const { edges, faces } = incidenceOf(shape);
  return new Set(
    edges.flatMap(({ faces: [face, other], uses, point }, place) => {
      if (point || uses !== 2 || face === undefined || other !== undefined) return [];
      const surface = faces[face]!.surface;
      return surface && ("axis" in surface || surface.kind === "revolution") ? [place] : [];
    }),
  );
}

/** The facts of every edge, in the order of `subshapes(shape, "edge")`; null for an edge without length. */
export function allEdgeFacts(shape: Shape): (EdgeFacts | null)[] {
  let facts = known.get(shape);
  if (!facts) {
    facts = incidenceOf(shape).edges.map((_, place) => edgeFacts(shape, place));
    known.set(shape, facts);
  }
  return facts;
}

/** The facts of one edge, by place: without those of all the others. */
export function edgeFactsAt(shape: Shape, place: number): EdgeFacts | null {
  return known.get(shape)?.[place] ?? edgeFacts(shape, place);
}

function edgeFacts(shape: Shape, place: number): EdgeFacts | null {
  const { point, curve: run } = incidenceOf(shape).edges[place]!;
  if (point) return null;
  const elementary = run && (run.curve.kind === "line" || run.curve.kind === "circle") ? run.curve : null;
  if (!run || !elementary) return measuredFacts(edgeHandles(shape)[place]!, edgeLengthAt(shape, place));
  const { from, to } = run;
  if (elementary.kind === "line") {
    const at = (t: number) => add(elementary.at as Vec3, scale(elementary.way as Vec3, t));
    const ends: [Vec3, Vec3] = [at(from), at(to)];
    return {
      kind: "line",
      length: distance(...ends),
      ends,
      at: at((from + to) / 2),
      direction: unit(sub(ends[1], ends[0])),
    };
  }
  const [centre, x, y] = [elementary.at, elementary.x, elementary.y] as [Vec3, Vec3, Vec3];
  const radius = elementary.major;
  const at = (t: number) => add(centre, add(scale(x, radius * Math.cos(t)), scale(y, radius * Math.sin(t))));
  return {
    kind: "circle",
    length: radius * (to - from),
    ends: [at(from), at(to)],
    at: at((from + to) / 2),
    radius,
    centre,
    direction: cross(x, y),
  };
}

/** The facts of an edge that is neither straight nor round. */
function measuredFacts(edge: TopoDS_Edge, long: number): EdgeFacts {
  return scoped((scope) => {
    const oc = lib();
    const curve = scope.use(new oc.BRepAdaptor_Curve(edge));
    const [first, last] = [curve.FirstParameter(), curve.LastParameter()];
    const at = (t: number) => readPoint(scope, curve.Value(t));
    return {
      kind: EDGE_KINDS[curve.GetType() as string] ?? "other",
      length: long,
      ends: [at(first), at(last)],
      at: at((first + last) / 2),
    };
  });
}

/** Nodes and weights of Gauss–Legendre integration with five points on [−1, 1] (Abramowitz & Stegun, table 25.4). */
const GAUSS = [
  [0, 0.5688888888888889],
  [0.5384693101056831, 0.47862867049936647],
  [-0.5384693101056831, 0.47862867049936647],
  [0.906179845938664, 0.23692688505618908],
  [-0.906179845938664, 0.23692688505618908],
] as const;

/**
 * The point at a distance along an edge from where it begins, mm, and the unit tangent there.
 * Exact on lines and circles; on others the length is integrated to about 1e-9 of the edge's own.
 */
export function alongEdge(shape: Shape, place: number, along: number): { at: Vec3; tangent: Vec3 } {
  return scoped((scope) => {
    const oc = lib();
    const curve = scope.use(new oc.BRepAdaptor_Curve(edgeHandles(shape)[place]!));
    const first = curve.FirstParameter();
    const last = curve.LastParameter();
    const derivative = (t: number) => readPoint(scope, curve.DN(t, 1));
    const speed = (t: number) => length(derivative(t));
    const span = (a: number, b: number) =>
      GAUSS.reduce((sum, [x, w]) => sum + w * speed((a + b) / 2 + ((b - a) / 2) * x), 0) * ((b - a) / 2);
    const kind = EDGE_KINDS[curve.GetType() as string];
    let t = first;
    if (kind === "line" || kind === "circle") t = first + along / speed(first);
    else {
      const STEPS = 64;
      let left = along;
      let from = first;
      for (let i = 0; i < STEPS; i++) {
        const to = first + ((last - first) * (i + 1)) / STEPS;
        const part = span(from, to);
        if (part >= left || i === STEPS - 1) break;
        left -= part;
        from = to;
      }
      t = from;
      for (let round = 0; round < 12; round++) {
        const missing = left - span(from, t);
        t += missing / Math.max(speed(t), 1e-12);
        if (Math.abs(missing) < 1e-12) break;
      }
    }
    return { at: readPoint(scope, curve.Value(t)), tangent: unit(derivative(t)) };
  });
}
