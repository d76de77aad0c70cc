import type { TopoDS_Edge, TopoDS_Vertex } from "replicad-opencascadejs";
import { type Structure, structureOf, structuresWithin } from "../binary";
import { identityOf } from "./identity";
import { keepWith } from "./kept";
import { lib } from "./library";
import { walked } from "./reused";
import { type Scope, scoped } from "./scope";
import { asEdge, compound, facesOf, occurrences, type Shape, ShapeMap } from "./topology";

const RECORD = "/shape.bin";

const known = new WeakMap<object, Structure>();

/**
 * A shape's structure and its elementary geometry. Asking the library part by part takes several thousand calls; its
 * own record of the shape is had with one, and holds the same numbers.
 */
export function incidenceOf(shape: Shape): Structure {
  let found = known.get(identityOf(shape));
  if (!found) {
    found = structureOf(recordOf(shape));
    known.set(identityOf(shape), found);
  }
  return found;
}

/** How many shapes go into one record: what they share is had once, and a record of thousands would be a large one. */
const TOGETHER = 64;

/**
 * Reads the structures of many shapes from one record of all: what several of them share, as pieces do what parts them, is
 * written and read once.
 */
export function readTogether(shapes: readonly Shape[]): void {
  const unread = [...new Map(shapes.map((shape) => [identityOf(shape), shape] as const))].filter(
    ([id]) => !known.has(id),
  );
  // One alone is read when it is asked about.
  if (unread.length < 2) return;
  for (let from = 0; from < unread.length; from += TOGETHER) {
    const lot = unread.slice(from, from + TOGETHER);
    const record = scoped((scope) => recordOf(scope.use(compound(lot.map(([, shape]) => shape)))));
    structuresWithin(record).forEach((structure, i) => {
      known.set(lot[i]![0], structure);
    });
  }
}

/** Notes that a copy has the structure and the geometry of what it was copied from, so that nobody has to ask the library for it. */
export function rememberCopy(copy: Shape, of: Shape): void {
  known.set(identityOf(copy), incidenceOf(of));
}

/** The library's own record of a shape. */
export function recordOf(shape: Shape): Uint8Array {
  return scoped((scope) => {
    const oc = lib();
    oc.BinTools.Write(shape, RECORD, scope.use(new oc.Message_ProgressRange()));
    return oc.FS.readFile(RECORD) as Uint8Array;
  });
}

/** The shape that a record holds, with its parts in the same order. It belongs to the caller. */
export function shapeOfRecord(record: Uint8Array): Shape {
  return scoped((scope) => {
    const oc = lib();
    oc.FS.writeFile(RECORD, record);
    const shape = new oc.TopoDS_Shape();
    oc.BinTools.Read(shape, RECORD, scope.use(new oc.Message_ProgressRange()));
    return shape;
  });
}

const edgeLists = new WeakMap<Shape, TopoDS_Edge[]>();
const vertexLists = new WeakMap<Shape, TopoDS_Vertex[]>();

/** The edges of a shape's faces, in the order of `subshapes`, by handles that last until `freeShape` frees the shape. */
export function edgeHandles(shape: Shape): readonly TopoDS_Edge[] {
  return kept(edgeLists, shape, () => {
    const oc = lib();
    const found: TopoDS_Edge[] = [];
    incidenceOf(shape).faces.forEach(({ wires }, f) => {
      walked(facesOf(shape)[f]!, "edge", undefined, (walk) => {
        for (const { edge } of wires.flat()) {
          if (edge === found.length) {
            const part = walk.Current();
            found.push(oc.TopoDS.Edge(part));
            part.delete();
          }
          walk.Next();
        }
      });
    });
    return found;
  });
}

/** One edge of a shape, by place, belonging to `scope`: without handles for all the others. */
export function edgeHandle(scope: Scope, shape: Shape, place: number): TopoDS_Edge {
  const { edges, faces } = incidenceOf(shape);
  const f = edges[place]!.faces[0]!;
  const at = faces[f]!.wires.flat().findIndex(({ edge }) => edge === place);
  return asEdge(scope, occurrences(scope, facesOf(shape)[f]!, "edge")[at]!);
}

/** The vertices of a shape's edges, in the order of `subshapes`, by handles that last until `freeShape` frees the shape. */
export function vertexHandles(shape: Shape): readonly TopoDS_Vertex[] {
  return kept(vertexLists, shape, (scope) => {
    const seen = new ShapeMap<true>();
    const found: TopoDS_Vertex[] = [];
    for (const edge of edgeHandles(shape))
      for (const part of occurrences(scope, edge, "vertex"))
        seen.ensure(part, () => {
          const handle = lib().TopoDS.Vertex(part);
          found.push(handle);
          return { handle, value: true };
        });
    return found;
  });
}

function kept<T extends Shape>(lists: WeakMap<Shape, T[]>, shape: Shape, read: (scope: Scope) => T[]): readonly T[] {
  let list = lists.get(shape);
  if (!list) {
    list = keepWith(shape, scoped(read));
    lists.set(shape, list);
  }
  return list;
}
