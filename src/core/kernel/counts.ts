import { Groups } from "../groups";
import { lib } from "./library";
import { edgeLength, edgePoint, openEdgeHandles, readPoint } from "./measure";
import { type Scope, scoped } from "./scope";
import { asEdge, occurrences, type Shape, ShapeMap, subshapes } from "./topology";
import type { Vec3 } from "./vectors";

/** A place where a skin touches itself: the material there has no thickness. */
export interface Pinch {
  at: Vec3;
  /** How far it runs, mm; 0 at a single point. */
  length: number;
}

export interface Counts {
  vertices: number;
  edges: number;
  faces: number;
  /** Boundary loops of faces: one for each face and one for each hole in a face. */
  loops: number;
  shells: number;
  /** Closed chains of open edges: 0 for a closed skin. */
  rims: number;
  /**
   * Handles of all skins together, from Euler–Poincaré: V − E + F − (L − F) = 2(S − G) − rims.
   * Null where a skin touches itself: it is no surface there, and the formula does not hold.
   */
  genus: number | null;
  /** Where a skin touches itself, along an edge or at a point. */
  pinches: Pinch[];
}

/**
 * Counts for the Euler–Poincaré formula, skin by skin: two skins may share a vertex. The library gives a closed curved
 * face a seam edge and shrinks edges to poles, so each face is a disc with holes; edges without length are left out,
 * the vertices that they are stay. What lies in a face without bounding it is not counted.
 */
export function countsOf(shape: Shape): Counts {
  return scoped((scope) => {
    const shells = subshapes(scope, shape, "shell");
    const total = { vertices: 0, edges: 0, faces: 0, loops: 0 };
    const pinches: Pinch[] = [];
    for (const shell of shells) {
      const one = countShell(scope, shell);
      total.vertices += one.vertices;
      total.edges += one.edges;
      total.faces += one.faces;
      total.loops += one.loops;
      pinches.push(...one.pinches);
    }
    const rims = countRims(scope, openEdgeHandles(scope, shape));
    const { vertices, edges, faces, loops } = total;
    const genus = shells.length - (vertices - edges + faces - (loops - faces) + rims) / 2;
    return {
      ...total,
      shells: shells.length,
      rims,
      genus: pinches.length === 0 && Number.isInteger(genus) ? genus : null,
      pinches,
    };
  });
}

const bounds = (shape: Shape) => !/INTERNAL|EXTERNAL/.test(shape.Orientation() as string);

function countShell(scope: Scope, shell: Shape) {
  const oc = lib();
  const faces = subshapes(scope, shell, "face").filter(bounds);
  const uses = new ShapeMap<{ edge: Shape; count: number }>();
  const edges: { edge: Shape; count: number }[] = [];
  const vertices = new ShapeMap<Corner>();
  const corners: Corner[] = [];
  let loops = 0;
  for (const face of faces)
    for (const wire of occurrences(scope, face, "wire")) {
      loops++;
      const real = occurrences(scope, wire, "edge").filter(bounds);
      for (const edge of real) {
        const point = oc.BRep_Tool.Degenerated(asEdge(scope, edge));
        let entry = uses.get(edge);
        if (!entry && !point) {
          entry = { edge, count: 0 };
          uses.set(edge, entry);
          edges.push(entry);
        }
        if (entry) entry.count++;
        for (const vertex of occurrences(scope, edge, "vertex").filter(bounds)) {
          let corner = vertices.get(vertex);
          if (!corner) {
            corner = { vertex, fans: [] };
            vertices.set(vertex, corner);
            corners.push(corner);
          }
          meet(corner, edge, wire);
        }
      }
    }
  const pinched = edges.filter(({ count }) => count > 2);
  const pinches: Pinch[] = pinched.map(({ edge }) => ({ at: edgePoint(scope, edge, 0.5), length: edgeLength(edge) }));
  const onPinched = new ShapeMap<true>();
  for (const { edge } of pinched) for (const vertex of subshapes(scope, edge, "vertex")) onPinched.set(vertex, true);
  for (const { vertex, fans } of corners)
    if (fans.length > 1 && !onPinched.get(vertex))
      pinches.push({ at: readPoint(scope, oc.BRep_Tool.Pnt(scope.use(oc.TopoDS.Vertex(vertex)))), length: 0 });
  return { vertices: corners.length, edges: edges.length, faces: faces.length, loops, pinches };
}

/** A vertex and the fans of faces round it: more than one means that only this point joins them. */
interface Corner {
  vertex: Shape;
  fans: { edges: Shape[]; wires: Shape[] }[];
}

/** Notes that an edge of a wire ends at a vertex: fans that share an edge or a wire are one. */
function meet(corner: Corner, edge: Shape, wire: Shape): void {
  const touched = corner.fans.filter(
    (fan) => fan.edges.some((other) => other.IsSame(edge)) || fan.wires.some((other) => other.IsSame(wire)),
  );
  const joined = {
    edges: [edge, ...touched.flatMap((fan) => fan.edges)],
    wires: [wire, ...touched.flatMap((fan) => fan.wires)],
  };
  corner.fans = [...corner.fans.filter((fan) => !touched.includes(fan)), joined];
}

/** Groups open edges that share a vertex: each group is one rim of the skin. */
function countRims(scope: Scope, edges: readonly Shape[]): number {
  const groups = new Groups(edges.length);
  const first = new ShapeMap<number>();
  edges.forEach((edge, i) => {
    for (const vertex of subshapes(scope, edge, "vertex")) {
      const other = first.get(vertex);
      if (other === undefined) first.set(vertex, i);
      else groups.join(i, other);
    }
  });
  return groups.all().length;
}
