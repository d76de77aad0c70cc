import type { TopoDS_Edge, TopoDS_Vertex } from "replicad-opencascadejs";
import { keepWith } from "./kept";
import { lib } from "./library";
import { type Scope, scoped } from "./scope";
import { facesOf, KINDS, type Shape, ShapeMap, subshapes } from "./topology";

/** An edge as a wire runs along it. */
export interface EdgeUse {
  edge: number;
  /** Whether it bounds: an edge can also lie inside a face. */
  bounds: boolean;
}

/** What a shape is made of and what touches what, in numbers: everything by its place in `subshapes`. */
export interface Incidence {
  faces: { bounds: boolean; wires: EdgeUse[][] }[];
  edges: {
    /** An edge without length, as at a sphere's pole. */
    point: boolean;
    /** The faces that it bounds. */
    faces: number[];
    /** How many times faces use it: once where the skin is open. */
    uses: number;
    /** Where it begins and ends; the same twice for a closed one. */
    vertices: number[];
  }[];
  vertices: { faces: number[] }[];
  /** The faces of each shell. */
  shells: number[][];
}

interface Read {
  incidence: Incidence;
  edges: TopoDS_Edge[];
  vertices: TopoDS_Vertex[];
}

const known = new WeakMap<Shape, Read>();

function readOnce(shape: Shape): Read {
  let found = known.get(shape);
  if (!found) {
    found = scoped((scope) => read(scope, shape));
    keepWith(shape, found.edges);
    keepWith(shape, found.vertices);
    known.set(shape, found);
  }
  return found;
}

/** Reads a shape's structure out of the library once; each question about it is then answered in numbers. */
export const incidenceOf = (shape: Shape): Incidence => readOnce(shape).incidence;

/** The edges of a shape as `subshapes` finds them, by handles that last until `freeShape` frees the shape. */
export const edgeHandles = (shape: Shape): readonly TopoDS_Edge[] => readOnce(shape).edges;

/** The vertices of a shape as `subshapes` finds them, by handles that last until `freeShape` frees the shape. */
export const vertexHandles = (shape: Shape): readonly TopoDS_Vertex[] => readOnce(shape).vertices;

const bounding = (shape: Shape) => !/INTERNAL|EXTERNAL/.test(shape.Orientation() as string);

/**
 * One walk through the library's structure. It is walked for every body that is made, so the walk is kept lean: three
 * explorers for all of it, and each handle freed where it was looked at.
 */
function read(scope: Scope, shape: Shape): Read {
  const oc = lib();
  const [wires, edges, ends] = [0, 1, 2].map(() => scope.use(new oc.TopExp_Explorer())) as [Walk, Walk, Walk];
  const result: Incidence = { faces: [], edges: [], vertices: [], shells: [] };
  const edgeList: TopoDS_Edge[] = [];
  const vertexList: TopoDS_Vertex[] = [];
  const [facePlaces, edgePlaces, vertexPlaces] = [
    new ShapeMap<number>(),
    new ShapeMap<number>(),
    new ShapeMap<number>(),
  ];
  const newVertex = (vertex: Shape) => {
    const handle = oc.TopoDS.Vertex(vertex);
    vertexList.push(handle);
    return { handle, value: result.vertices.push({ faces: [] }) - 1 };
  };
  const newEdge = (edge: Shape) => {
    const handle = oc.TopoDS.Edge(edge);
    edgeList.push(handle);
    const vertices: number[] = [];
    each(ends, edge, "vertex", (vertex) => {
      const place = vertexPlaces.ensure(vertex, () => newVertex(vertex));
      if (bounding(vertex)) vertices.push(place);
    });
    const point = oc.BRep_Tool.Degenerated(handle);
    return { handle, value: result.edges.push({ point, faces: [], uses: 0, vertices }) - 1 };
  };
  const note = (list: number[], face: number) => {
    if (list.at(-1) !== face && !list.includes(face)) list.push(face);
  };
  // The library walks a shape depth first: faces, their wires, their edges, their vertices. So does this.
  facesOf(shape).forEach((face, f) => {
    facePlaces.set(face, f);
    const inner = (face.Orientation() as string) === "TopAbs_INTERNAL";
    const all: EdgeUse[][] = [];
    each(wires, face, "wire", (wire) => {
      const uses: EdgeUse[] = [];
      each(edges, wire, "edge", (edge) => {
        const place = edgePlaces.ensure(edge, () => newEdge(edge));
        const entry = result.edges[place]!;
        note(entry.faces, f);
        if (!inner) entry.uses++;
        for (const vertex of entry.vertices) note(result.vertices[vertex]!.faces, f);
        uses.push({ edge: place, bounds: bounding(edge) });
      });
      all.push(uses);
    });
    result.faces.push({ bounds: bounding(face), wires: all });
  });
  result.shells = subshapes(scope, shape, "shell").map((shell) =>
    subshapes(scope, shell, "face").map((face) => facePlaces.get(face)!),
  );
  return { incidence: result, edges: edgeList, vertices: vertexList };
}

type Walk = InstanceType<ReturnType<typeof lib>["TopExp_Explorer"]>;

/** Looks at each part of a kind, as often as it occurs; its handle is freed afterwards. */
function each(walk: Walk, shape: Shape, kind: "wire" | "edge" | "vertex", look: (part: Shape) => void): void {
  walk.Init(shape, KINDS[kind], "TopAbs_SHAPE");
  for (; walk.More(); walk.Next()) {
    const part = walk.Current();
    look(part);
    part.delete();
  }
}
