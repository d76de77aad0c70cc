import type { TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from "replicad-opencascadejs";
import { sameAs } from "./identity";
import { keepWith, release } from "./kept";
import { lib } from "./library";
import { walked } from "./reused";
import { type Scope, scoped } from "./scope";
import type { SubshapeKind } from "./subshape-kind";

/** A shape of the library, opaque outside this folder. Whoever holds one frees it with `freeShape`. */
export type Shape = TopoDS_Shape;

const KIND_OF: Record<string, SubshapeKind | "compound"> = {
  TopAbs_SOLID: "solid",
  TopAbs_SHELL: "shell",
  TopAbs_FACE: "face",
  TopAbs_WIRE: "wire",
  TopAbs_EDGE: "edge",
  TopAbs_VERTEX: "vertex",
  TopAbs_COMPOUND: "compound",
  TopAbs_COMPSOLID: "compound",
};

export function shapeKind(shape: Shape): SubshapeKind | "compound" {
  return KIND_OF[shape.ShapeType() as string] ?? "compound";
}

const keptFaces = new WeakMap<Shape, Shape[]>();

export function freeShape(shape: Shape): void {
  release(shape);
}

/** The faces of a shape as `subshapes` finds them, by handles that last until `freeShape` frees the shape. */
export function facesOf(shape: Shape): readonly Shape[] {
  let faces = keptFaces.get(shape);
  if (!faces) {
    const oc = lib();
    faces =
      shapeKind(shape) === "face"
        ? [oc.TopoDS.Face(shape)]
        : scoped((scope) => subshapes(scope, shape, "face").map((face) => oc.TopoDS.Face(face)));
    keptFaces.set(shape, keepWith(shape, faces));
  }
  return faces;
}

/** Finds the value kept for a shape, where two handles of one subshape (whatever its orientation) are one key. */
export class ShapeMap<T> {
  private readonly buckets = new Map<number, { shape: Shape; value: T }[]>();

  get(shape: Shape): T | undefined {
    const bucket = this.buckets.get(hashOf(shape));
    return bucket?.find((entry) => entry.shape.IsSame(shape))?.value;
  }

  /** The value for a shape, made when there is none. `make` returns the handle to keep and its value. */
  ensure(shape: Shape, make: () => { handle: Shape; value: T }): T {
    const hash = hashOf(shape);
    const bucket = this.buckets.get(hash);
    const found = bucket?.find((entry) => entry.shape.IsSame(shape));
    if (found) return found.value;
    const { handle, value } = make();
    if (bucket) bucket.push({ shape: handle, value });
    else this.buckets.set(hash, [{ shape: handle, value }]);
    return value;
  }

  /** Keeps `value` for `shape`. The map does not own the handle, which has to outlive it. */
  set(shape: Shape, value: T): void {
    const hash = hashOf(shape);
    const bucket = this.buckets.get(hash);
    if (!bucket) this.buckets.set(hash, [{ shape, value }]);
    else {
      const entry = bucket.find((candidate) => candidate.shape.IsSame(shape));
      if (entry) entry.value = value;
      else bucket.push({ shape, value });
    }
  }
}

function hashOf(shape: Shape): number {
  return lib().ReplicadShapeHasher.HashCode(shape, 2147483647);
}

/**
 * The subshapes of a kind, each once, in the library's own order, which depends only on how the shape is built
 * and survives writing and reading. The handles belong to `scope`; a face carries the orientation it has in `shape`.
 */
export function subshapes(scope: Scope, shape: Shape, kind: SubshapeKind): Shape[] {
  const found: Shape[] = [];
  const seen = new ShapeMap<true>();
  walked(shape, kind, undefined, (walk) => {
    for (; walk.More(); walk.Next()) {
      const current = scope.use(walk.Current());
      if (seen.get(current)) continue;
      seen.set(current, true);
      found.push(current);
    }
  });
  return found;
}

/** Every occurrence of a kind, an edge that a face uses twice listed twice; those inside an `outside` kind left out. */
export function occurrences(scope: Scope, shape: Shape, kind: SubshapeKind, outside?: SubshapeKind): Shape[] {
  const found: Shape[] = [];
  walked(shape, kind, outside, (walk) => {
    for (; walk.More(); walk.Next()) found.push(scope.use(walk.Current()));
  });
  return found;
}

/** A handle of its own for a subshape found in a scope, which the caller frees. */
export const ownHandle = (shape: Shape): Shape => sameAs(anotherHandle(shape), shape);

function anotherHandle(shape: Shape): Shape {
  const oc = lib();
  switch (shapeKind(shape)) {
    case "solid":
      return oc.TopoDS.Solid(shape);
    case "shell":
      return oc.TopoDS.Shell(shape);
    case "face":
      return oc.TopoDS.Face(shape);
    case "wire":
      return oc.TopoDS.Wire(shape);
    case "edge":
      return oc.TopoDS.Edge(shape);
    case "vertex":
      return oc.TopoDS.Vertex(shape);
    default:
      return oc.TopoDS.Compound(shape);
  }
}

export function asFace(scope: Scope, shape: Shape): TopoDS_Face {
  return scope.use(lib().TopoDS.Face(shape));
}

export function asEdge(scope: Scope, shape: Shape): TopoDS_Edge {
  return scope.use(lib().TopoDS.Edge(shape));
}

export function listOf(scope: Scope, shapes: readonly Shape[]) {
  const list = scope.use(new (lib().NCollection_List_TopoDS_Shape)());
  for (const shape of shapes) scope.use(list.Append(shape) as Shape);
  return list;
}

/** The members of a list of the library, which is left as it was. */
export function fromList(
  scope: Scope,
  list: InstanceType<ReturnType<typeof lib>["NCollection_List_TopoDS_Shape"]>,
): Shape[] {
  const size = list.Size();
  if (size === 0) return [];
  if (size === 1) return [scope.use(list.First())];
  // Copying a list takes longer than all else here, and most things are cut in two.
  if (size === 2) return [scope.use(list.First()), scope.use(list.Last())];
  const copy = scope.use(new (lib().NCollection_List_TopoDS_Shape)(list));
  const members: Shape[] = [];
  for (let left = size; left > 0; left--) {
    members.push(scope.use(copy.First()));
    copy.RemoveFirst();
  }
  return members;
}

/** Puts shapes into one compound, owned by the caller. */
export function compound(shapes: readonly Shape[]): Shape {
  return scoped((scope) => {
    const oc = lib();
    const result = new oc.TopoDS_Compound();
    const builder = scope.use(new oc.TopoDS_Builder());
    builder.MakeCompound(result);
    for (const shape of shapes) builder.Add(result, shape);
    return result;
  });
}

/** Puts faces that share their edges into one shell, owned by the caller. */
export function shellOf(faces: readonly Shape[]): Shape {
  return scoped((scope) => {
    const oc = lib();
    const shell = new oc.TopoDS_Shell();
    const builder = scope.use(new oc.TopoDS_Builder());
    builder.MakeShell(shell);
    for (const face of faces) builder.Add(shell, face);
    return shell;
  });
}

export type Orientation = 1 | -1 | 0;
/** +1 as the surface runs, −1 against it, 0 for a face that lies inside a solid without bounding it. */
export function orientation(shape: Shape): Orientation {
  const value = shape.Orientation() as string;
  return value === "TopAbs_FORWARD" ? 1 : value === "TopAbs_REVERSED" ? -1 : 0;
}
