import { adjacency, edgeNeighbourhoods, faceCentre, type Shape } from "../kernel";
import { comparePlaces, distinctNames, meetingName } from "./faces";

export interface TopologyNames {
  /** One name per edge, in the kernel's order of edges; edges without length have none. */
  edges: (string | null)[];
  /** One name per vertex, in the kernel's order of vertices. */
  vertices: string[];
}

/**
 * Names of the edges and vertices of a body: an edge by the faces that it bounds, a vertex by the faces around it.
 * Where several share those faces (the two rims of a crossing), their place tells them apart.
 */
export function topologyNames(shape: Shape, faces: readonly string[]): TopologyNames {
  let names = known.get(shape);
  if (!names) {
    names = nameAll(shape, faces);
    known.set(shape, names);
  }
  return names;
}

const known = new WeakMap<Shape, TopologyNames>();

function nameAll(shape: Shape, faces: readonly string[]): TopologyNames {
  const { edges, vertices } = edgeNeighbourhoods(shape);
  const numbered = (list: { faces: number[]; at: readonly [number, number, number] }[]): string[] => {
    const bases = list.map(({ faces: around }) => meetingName(around.map((face) => faces[face]!)));
    return bases.map((base, i) => {
      const twins = list.map((_, j) => j).filter((j) => bases[j] === base);
      if (twins.length === 1) return base;
      const order = twins.sort((a, b) => comparePlaces(list[a]!.at, list[b]!.at));
      return `${base}.${order.indexOf(i) + 1}`;
    });
  };
  const real = edges.filter((edge) => edge !== null);
  const names = numbered(real);
  let next = 0;
  return { edges: edges.map((edge) => (edge ? names[next++]! : null)), vertices: numbered(vertices) };
}

/** A name of its own for every face of a shape, from those that history hands down (`distinctNames`). */
export function faceNamesOf(shape: Shape, bases: readonly string[]): string[] {
  return distinctNames(
    bases,
    () => adjacency(shape).neighbours,
    (face) => faceCentre(shape, face),
  );
}
