import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import type { Vec3 } from "../space/vectors";
import { edgeMiddle } from "./edges";

export interface Adjacency {
  /** For each face, by its place in `subshapes(shape, "face")`, the places of its neighbours across an edge. */
  neighbours: number[][];
}

/** The faces that each edge bounds, all by place. */
export const facesAtEdges = (shape: Shape): number[][] => incidenceOf(shape).edges.map(({ faces }) => [...faces]);

/** Which faces of a shape meet along an edge. Edges shrunk to a point (a sphere's pole) are left out. */
export function adjacency(shape: Shape): Adjacency {
  const { faces, edges } = incidenceOf(shape);
  const neighbours = faces.map(() => new Set<number>());
  for (const { point, faces: sharing } of edges)
    if (!point) for (const a of sharing) for (const b of sharing) if (a !== b) neighbours[a]!.add(b);
  return { neighbours: neighbours.map((set) => [...set].sort((a, b) => a - b)) };
}

/** Whether a shape's faces form one connected surface. */
export function isConnected(shape: Shape): boolean {
  const { neighbours } = adjacency(shape);
  if (neighbours.length === 0) return true;
  const seen = new Set([0]);
  const queue = [0];
  while (queue.length)
    for (const next of neighbours[queue.pop()!]!) if (!seen.has(next)) seen.add(next) && queue.push(next);
  return seen.size === neighbours.length;
}

export interface Neighbourhoods {
  /** Per edge in the library's order: the faces it bounds (by place) and its middle; null for an edge without length. */
  edges: ({ faces: number[]; readonly at: Vec3 } | null)[];
  /** Per vertex in the library's order: the faces around it and where it is. */
  vertices: { faces: number[]; readonly at: Vec3 }[];
}

const known = new WeakMap<Shape, Neighbourhoods>();

class AroundEdge {
  constructor(
    readonly faces: number[],
    private readonly shape: Shape,
    private readonly place: number,
  ) {}

  get at(): Vec3 {
    return edgeMiddle(this.shape, this.place);
  }
}

/** Which faces meet at each edge and each vertex. Places are only worked out where they are asked for. */
export function edgeNeighbourhoods(shape: Shape): Neighbourhoods {
  let found = known.get(shape);
  if (!found) {
    const { edges, vertices } = incidenceOf(shape);
    found = {
      edges: edges.map(({ point, faces }, place) => (point ? null : new AroundEdge(faces, shape, place))),
      vertices,
    };
    known.set(shape, found);
  }
  return found;
}

/** A few points of a shape's skin: its vertices, in the order of `subshapes(shape, "vertex")`. */
export function verticesOf(shape: Shape): Vec3[] {
  return incidenceOf(shape).vertices.map(({ at }) => at);
}
