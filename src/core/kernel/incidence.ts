import type { TopoDS_Edge, TopoDS_Vertex } from "replicad-opencascadejs";
import { keepWith } from "./kept";
import { lib } from "./library";
import { type Scope, scoped } from "./scope";
import { facesOf, occurrences, type Shape, ShapeMap, subshapes } from "./topology";

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

function read(scope: Scope, shape: Shape): Read {
  const oc = lib();
  const edges: TopoDS_Edge[] = [];
  const vertices: TopoDS_Vertex[] = [];
  const result: Incidence = { faces: [], edges: [], vertices: [], shells: [] };
  const [places, edgePlaces, vertexPlaces] = [new ShapeMap<number>(), new ShapeMap<number>(), new ShapeMap<number>()];
  const placeOfVertex = (vertex: Shape): number => {
    let place = vertexPlaces.get(vertex);
    if (place === undefined) {
      place = result.vertices.push({ faces: [] }) - 1;
      vertices.push(oc.TopoDS.Vertex(vertex));
      vertexPlaces.set(vertex, place);
    }
    return place;
  };
  const placeOfEdge = (edge: Shape): number => {
    let place = edgePlaces.get(edge);
    if (place === undefined) {
      const handle = oc.TopoDS.Edge(edge);
      edges.push(handle);
      const point = oc.BRep_Tool.Degenerated(handle);
      const ends = occurrences(scope, edge, "vertex")
        .map((vertex) => ({ vertex: placeOfVertex(vertex), bounds: bounding(vertex) }))
        .flatMap(({ vertex, bounds }) => (bounds ? [vertex] : []));
      place = result.edges.push({ point, faces: [], uses: 0, vertices: ends }) - 1;
      edgePlaces.set(edge, place);
    }
    return place;
  };
  const note = (list: number[], face: number) => {
    if (list.at(-1) !== face && !list.includes(face)) list.push(face);
  };
  // The library walks a shape depth first: faces, their wires, their edges, their vertices. So does this.
  facesOf(shape).forEach((face, f) => {
    places.set(face, f);
    const inner = (face.Orientation() as string) === "TopAbs_INTERNAL";
    const wires = occurrences(scope, face, "wire").map((wire) =>
      occurrences(scope, wire, "edge").map((edge): EdgeUse => {
        const place = placeOfEdge(edge);
        const entry = result.edges[place]!;
        note(entry.faces, f);
        if (!inner) entry.uses++;
        for (const vertex of entry.vertices) note(result.vertices[vertex]!.faces, f);
        return { edge: place, bounds: bounding(edge) };
      }),
    );
    result.faces.push({ bounds: bounding(face), wires });
  });
  result.shells = subshapes(scope, shape, "shell").map((shell) =>
    subshapes(scope, shell, "face").map((face) => places.get(face)!),
  );
  return { incidence: result, edges, vertices };
}
