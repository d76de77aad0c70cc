import { adjacency, edgeNeighbourhoods, faceCentre, type Shape } from "../kernel";
import { comparePlaces, distinctNames, meetingName } from "./faces";

export interface TopologyNames {
  /** One name per edge, in the kernel's order of edges; edges without length have none. */
  readonly edges: readonly (string | null)[];
  /** One name per vertex, in the kernel's order of vertices. */
  readonly vertices: readonly string[];
}

/**
 * Names of the edges and vertices of a body: an edge by the faces that it bounds, a vertex by the faces around it.
 * Where several share those faces (the two rims of a crossing), their place tells them apart. Each kind is named when it is
 * asked for: most who ask for edges never ask for corners.
 */
export function topologyNames(shape: Shape, faces: readonly string[]): TopologyNames {
  let names = known.get(shape);
  if (!names) {
    names = new LateNames(shape, faces);
    known.set(shape, names);
  }
  return names;
}

const known = new WeakMap<Shape, TopologyNames>();

class LateNames implements TopologyNames {
  private named: { edges?: readonly (string | null)[]; vertices?: readonly string[] } = {};

  constructor(
    private readonly shape: Shape,
    private readonly faces: readonly string[],
  ) {}

  get edges(): readonly (string | null)[] {
    this.named.edges ??= this.nameEdges();
    return this.named.edges;
  }

  get vertices(): readonly string[] {
    this.named.vertices ??= numbered(edgeNeighbourhoods(this.shape).vertices, this.faces);
    return this.named.vertices;
  }

  private nameEdges(): (string | null)[] {
    const { edges } = edgeNeighbourhoods(this.shape);
    const names = numbered(
      edges.filter((edge) => edge !== null),
      this.faces,
    );
    let next = 0;
    return edges.map((edge) => (edge ? names[next++]! : null));
  }
}

/** A name for each by the faces around it, with a number by place for those that have the same. */
function numbered(
  list: readonly { faces: number[]; readonly at: readonly [number, number, number] }[],
  faces: readonly string[],
): string[] {
  const names = list.map(({ faces: around }) => meetingName(around.map((face) => faces[face]!)));
  const sharing = new Map<string, number[]>();
  names.forEach((name, i) => {
    const others = sharing.get(name);
    if (others) others.push(i);
    else sharing.set(name, [i]);
  });
  for (const [name, twins] of sharing) {
    if (twins.length === 1) continue;
    twins.sort((a, b) => comparePlaces(list[a]!.at, list[b]!.at));
    for (const [order, i] of twins.entries()) names[i] = `${name}.${order + 1}`;
  }
  return names;
}

/** A name of its own for every face of a shape, from those that history hands down (`distinctNames`). */
export function faceNamesOf(shape: Shape, bases: readonly string[]): string[] {
  return distinctNames(
    bases,
    () => adjacency(shape).neighbours,
    (face) => faceCentre(shape, face),
  );
}
