import { patchOfAny, type Structure, structureOf } from "../binary";
import { edgeHandles, incidenceOf, recordOf, shapeOfRecord } from "../library/incidence";
import { lib } from "../library/library";
import { type Scope, scoped } from "../library/scope";
import { KINDS } from "../library/subshape-kind";
import { asFace, facesOf, freeShape, type Shape } from "../library/topology";
import { distance, type Vec3 } from "../space/vectors";
import { isValid } from "./measure";
import { farthest, type Run, runOf } from "./off-face";

/** mm: what the library allows between parts that meet as a rule. More than it is measured, not believed. */
const CONFUSION = 1e-6;
/** In how many places along an edge. */
const PLACES = 24;

interface Gap {
  /** How far apart, mm. */
  size: number;
  at: Vec3;
}

/** How far apart what meets in each edge and each vertex of a shape is: in the order of `incidenceOf`. */
interface Gaps {
  edges: Gap[];
  vertices: Gap[];
}

const known = new WeakMap<Shape, Gaps>();

/**
 * The library notes with each edge and vertex how far apart what meets there may be, and it notes far too much at times:
 * 6 mm where nothing is apart. So where it notes more than its own confusion, the edge's curve is held against its images on
 * the faces, and the vertex against the ends of its edges.
 */
function gapsOf(shape: Shape): Gaps {
  const found = known.get(shape);
  if (found) return found;
  const structure = incidenceOf(shape);
  const { edges, vertices } = structure;
  const gaps: Gaps = {
    edges: edges.map(({ tolerance, vertices: ends }) => ({
      size: tolerance,
      at: vertices[ends[0] ?? -1]?.at ?? [0, 0, 0],
    })),
    vertices: vertices.map(({ tolerance, at }) => ({ size: tolerance, at })),
  };
  const wide = new Set(vertices.flatMap(({ tolerance }, v) => (tolerance > CONFUSION ? [v] : [])));
  const reach = new Map<number, number>();
  scoped((scope) => {
    edges.forEach((edge, e) => {
      if (edge.point || !edge.curve) return;
      const measured = edge.tolerance > CONFUSION;
      if (!measured && !edge.vertices.some((vertex) => wide.has(vertex))) return;
      const runs = runsOf(scope, shape, e);
      const along = runs[0]!;
      let widest: Gap = { size: 0, at: along(0) };
      const numbers = measured ? runsByNumbers(structure, e) : null;
      for (const run of numbers ?? []) {
        const found = farthest(run);
        if (found.size > widest.size) widest = found;
      }
      if (measured && !numbers)
        for (let i = 0; i <= PLACES; i++) {
          const at = along(i / PLACES);
          for (const image of runs.slice(1)) {
            const size = distance(image(i / PLACES), at);
            if (size > widest.size) widest = { size, at };
          }
        }
      if (measured) gaps.edges[e] = widest;
      for (const vertex of edge.vertices) {
        if (!wide.has(vertex)) continue;
        const { at } = vertices[vertex]!;
        // The nearer end is the one that it is the end of.
        const off = Math.max(...runs.map((run) => Math.min(distance(run(0), at), distance(run(1), at))));
        reach.set(vertex, Math.max(reach.get(vertex) ?? 0, off));
      }
    });
  });
  for (const [vertex, size] of reach) gaps.vertices[vertex]!.size = size;
  known.set(shape, gaps);
  return gaps;
}

/** An edge on each of its faces, by numbers; null where they do not say all of it. A flat face asks for no image: the edge lies in it. */
function runsByNumbers({ faces, edges }: Structure, e: number): Run[] | null {
  const runs: Run[] = [];
  for (const f of edges[e]!.faces) {
    const { surface, wires, image } = faces[f]!;
    const patch = surface && patchOfAny(surface);
    for (const use of wires.flat()) {
      if (use.edge !== e) continue;
      const on = image(use);
      const run = on && patch && runOf(edges[e]!.curve!, on, patch);
      if (!run) return null;
      runs.push(run);
    }
  }
  return runs;
}

/** An edge's own curve, then its image on each of its faces, from 0 to 1 along it. */
function runsOf(scope: Scope, shape: Shape, e: number): ((fraction: number) => Vec3)[] {
  const oc = lib();
  const edge = edgeHandles(shape)[e]!;
  const curves = [
    new oc.BRepAdaptor_Curve(edge),
    ...incidenceOf(shape).edges[e]!.faces.map(
      (face) => new oc.BRepAdaptor_Curve(edge, asFace(scope, facesOf(shape)[face]!)),
    ),
  ];
  return curves.map((curve) => {
    scope.use(curve);
    const [from, to] = [curve.FirstParameter(), curve.LastParameter()];
    return (fraction) => {
      const p = curve.Value(from + (to - from) * fraction);
      const at: Vec3 = [p.X(), p.Y(), p.Z()];
      p.delete();
      return at;
    };
  });
}

/** How far the parts of a body that should meet are apart, at most, and where: mm. Null for a shape without edges. */
export function widestGap(shape: Shape): Gap | null {
  const { edges, vertices } = gapsOf(shape);
  let widest: Gap | null = null;
  for (const gap of [...vertices, ...edges]) if (!widest || gap.size > widest.size) widest = gap;
  return widest;
}

/** The most that the library notes may be apart in a shape, mm: never less than what is. */
export function notedGap(shape: Shape): number {
  const { BRep_Tool } = lib();
  return Math.max(BRep_Tool.MaxTolerance(shape, KINDS.edge), BRep_Tool.MaxTolerance(shape, KINDS.vertex));
}

/**
 * The same without what the library notes with every rounding and chamfer, needed or not: 1e-4 mm. What is left comes of a
 * division or a join.
 */
export function oddGap(shape: Shape): number {
  const most = notedGap(shape);
  if (most < CONFUSION) return most;
  const { edges, vertices } = incidenceOf(shape);
  const odd = [...edges, ...vertices].filter(({ tolerance }) => Math.abs(tolerance - ROUNDING) > 0.01 * ROUNDING);
  return Math.max(0, ...odd.map(({ tolerance }) => tolerance));
}

const ROUNDING = 1e-4;

/** mm: from here on, what the library notes too much is taken back. */
const LOOSE = 1e-5;

/**
 * The same body with what the library noted too much taken back: a corner that is said to reach 6 mm swallows all that a later
 * division has within 6 mm of it. A handle of the caller's own; null where nothing is noted too much.
 */
export function tightened(shape: Shape): Shape | null {
  // The library says the most at once; what it noted where, only its record of the shape does.
  if (notedGap(shape) <= LOOSE || oddGap(shape) <= LOOSE) return null;
  // Where it stands, this record says, whatever the structure was read from before.
  const record = recordOf(shape);
  const structure = structureOf(record);
  const gaps = gapsOf(shape);
  const changes: [place: number, value: number][] = [];
  for (const kind of ["edges", "vertices"] as const)
    structure[kind].forEach(({ tolerance, toleranceAt }, i) => {
      const least = Math.max(CONFUSION, 1.5 * gaps[kind][i]!.size);
      if (tolerance > LOOSE && tolerance > 2 * least) changes.push([toleranceAt, least]);
    });
  if (changes.length === 0) return null;
  const view = new DataView(record.buffer, record.byteOffset, record.byteLength);
  for (const [place, value] of changes) view.setFloat64(place, value, true);
  const tight = shapeOfRecord(record);
  // What the library's own check asks for is left as it is.
  if (isValid(tight) || !isValid(shape)) return tight;
  freeShape(tight);
  return null;
}
