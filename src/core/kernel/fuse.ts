import type { BRepAlgoAPI_BuilderAlgo, TopAbs_Orientation } from "replicad-opencascadejs";
import { KernelFault } from "./faults";
import { lib } from "./library";
import { type Scope, scoped } from "./scope";
import {
  asEdge,
  asFace,
  fromList,
  listOf,
  type Orientation,
  occurrences,
  orientation,
  ownHandle,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "./topology";
import type { Vec3 } from "./vectors";

/** A face of the arrangement as some body or cell has it. Faces are numbered; equal numbers are one face. */
export interface FaceUse {
  face: number;
  sign: Orientation;
}

export interface Cell {
  /** A solid of its own; `Fusion.free` frees it. */
  shape: Shape;
  /** Every use of a face: bounding it (±1), or lying inside without dividing it (0). */
  faces: FaceUse[];
  /** The arguments (by place) whose inside this cell is part of. */
  within: number[];
}

/** Everything that the arguments divide each other into, as numbers; handles stay inside. */
export interface Fusion {
  cells: Cell[];
  /** For each argument, for each of its faces in order, the faces it became. An empty list: the face is gone. */
  images: FaceUse[][][];
  /** A handle for a numbered face, valid until `free`. */
  faceHandle(face: number): Shape;
  /** The edges round a face: number, and whether it came from two arguments crossing. */
  faceEdges(face: number): { edge: number; crossing: boolean }[];
  /** A handle for a numbered edge, valid until `free`. */
  edgeHandle(edge: number): Shape;
  free(): void;
}

/**
 * Divides all arguments by one another (the general fuse of the library) without changing them.
 * @throws KernelFault when the library reports an error.
 */
export function fuse(args: readonly Shape[]): Fusion {
  const oc = lib();
  const held: Shape[] = [];
  const hold = (shape: Shape): Shape => {
    const own = ownHandle(shape);
    held.push(own);
    return own;
  };
  const free = () => {
    for (const shape of held) shape.delete();
    held.length = 0;
  };
  try {
    return scoped((scope) => {
      const algorithm = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
      algorithm.SetArguments(listOf(scope, args));
      algorithm.SetNonDestructive(true);
      algorithm.Build(scope.use(new oc.Message_ProgressRange()));
      if (algorithm.HasErrors()) throw new KernelFault("The bodies could not be divided by one another.", false);

      const faceNumbers = new ShapeMap<number>();
      const faceHandles: Shape[] = [];
      const numberOf = (face: Shape): number => {
        let number = faceNumbers.get(face);
        if (number === undefined) {
          number = faceHandles.length;
          const own = hold(face);
          faceHandles.push(own);
          faceNumbers.set(own, number);
        }
        return number;
      };
      const images = args.map((arg) =>
        subshapes(scope, arg, "face").map((face): FaceUse[] => {
          const changed = imagesOf(scope, algorithm, face);
          return changed.map((image) => ({ face: numberOf(image), sign: orientation(image) }));
        }),
      );

      const cells: Cell[] = [];
      const cellNumbers = new ShapeMap<number>();
      args.forEach((arg, a) => {
        for (const solid of subshapes(scope, arg, "solid")) {
          for (const image of imagesOf(scope, algorithm, solid)) {
            let number = cellNumbers.get(image);
            if (number === undefined) {
              number = cells.length;
              const shape = hold(image);
              cellNumbers.set(shape, number);
              const faces = occurrences(scope, shape, "face").map((face) => ({
                face: numberOf(face),
                sign: orientation(face),
              }));
              cells.push({ shape, faces, within: [] });
            }
            if (!cells[number]!.within.includes(a)) cells[number]!.within.push(a);
          }
        }
      });

      const crossing = new ShapeMap<true>();
      for (const edge of fromList(scope, algorithm.SectionEdges())) crossing.set(hold(edge), true);
      const edgeNumbers = new ShapeMap<number>();
      const edgeHandles: Shape[] = [];
      const edgesOfFace = new Map<number, { edge: number; crossing: boolean }[]>();
      return {
        cells,
        images,
        faceHandle: (face) => faceHandles[face]!,
        faceEdges(face) {
          const known = edgesOfFace.get(face);
          if (known) return known;
          const found = scoped((inner) =>
            occurrences(inner, faceHandles[face]!, "edge")
              .filter((edge) => !oc.BRep_Tool.Degenerated(asEdge(inner, edge)))
              .map((edge) => {
                let number = edgeNumbers.get(edge);
                if (number === undefined) {
                  number = edgeHandles.length;
                  const own = hold(edge);
                  edgeHandles.push(own);
                  edgeNumbers.set(own, number);
                }
                return { edge: number, crossing: crossing.get(edge) === true };
              }),
          );
          edgesOfFace.set(face, found);
          return found;
        },
        edgeHandle: (edge) => edgeHandles[edge]!,
        free,
      };
    });
  } catch (cause) {
    free();
    throw cause;
  }
}

function imagesOf(scope: Scope, algorithm: BRepAlgoAPI_BuilderAlgo, shape: Shape): Shape[] {
  const modified = scope.use(algorithm.Modified(shape));
  if (modified.Size() > 0) return fromList(scope, modified);
  return algorithm.IsDeleted(shape) ? [] : [shape];
}

/**
 * Builds a solid from faces that close it, each oriented outwards; shells are found by the edges they share.
 * The caller frees it. `order` tells where each face of the result came from.
 */
export function solidFromFaces(faces: readonly { shape: Shape; sign: Orientation }[]): {
  shape: Shape;
  order: number[];
} {
  return scoped((scope) => {
    const oc = lib();
    const builder = scope.use(new oc.TopoDS_Builder());
    const solid = new oc.TopoDS_Solid();
    builder.MakeSolid(solid);
    const order: number[] = [];
    for (const group of connected(faces.map((face) => face.shape))) {
      const shell = scope.use(new oc.TopoDS_Shell());
      builder.MakeShell(shell);
      for (const place of group) {
        const { shape, sign } = faces[place]!;
        const sense = (sign === 1 ? "TopAbs_FORWARD" : "TopAbs_REVERSED") as TopAbs_Orientation;
        builder.Add(shell, scope.use(asFace(scope, shape).Oriented(sense)));
        order.push(place);
      }
      shell.Closed(true);
      builder.Add(solid, shell);
    }
    return { shape: solid, order };
  });
}

/** Groups faces (by place) that hang together by shared edges. */
function connected(faces: readonly Shape[]): number[][] {
  return scoped((scope) => {
    const groupOf = faces.map((_, i) => i);
    const root = (i: number): number => {
      let r = i;
      while (groupOf[r] !== r) r = groupOf[r]!;
      return r;
    };
    const first = new ShapeMap<number>();
    faces.forEach((face, i) => {
      for (const edge of occurrences(scope, face, "edge")) {
        const other = first.get(edge);
        if (other === undefined) first.set(edge, i);
        else groupOf[root(i)] = root(other);
      }
    });
    const groups = new Map<number, number[]>();
    faces.forEach((_, i) => {
      const r = root(i);
      const group = groups.get(r);
      if (group) group.push(i);
      else groups.set(r, [i]);
    });
    return [...groups.values()];
  });
}

export interface Merged {
  shape: Shape;
  /** For each face of the result, the faces of the input (by place) that it was made from. */
  sources: number[][];
}

/**
 * Merges neighbouring faces that lie on one surface, with history. The library keeps history only through an
 * algorithm with two arguments, so a lone vertex far away stands in as the second.
 * @returns null when there was nothing to merge.
 */
export function mergeFaces(shape: Shape, faraway: Vec3): Merged | null {
  return scoped((scope) => {
    const oc = lib();
    const at = scope.use(new oc.gp_Pnt(...(faraway as [number, number, number])));
    const vertex = scope.use(scope.use(new oc.BRepBuilderAPI_MakeVertex(at)).Vertex());
    const algorithm = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
    algorithm.SetArguments(listOf(scope, [shape, vertex]));
    algorithm.SetNonDestructive(true);
    algorithm.Build(scope.use(new oc.Message_ProgressRange()));
    if (algorithm.HasErrors()) return null;
    const before = subshapes(scope, shape, "face");
    algorithm.SimplifyResult(true, true, 1e-9);
    const whole = scope.use(algorithm.Shape());
    const wanted = shapeKind(shape) === "solid" ? "solid" : "shell";
    const results = subshapes(scope, whole, wanted);
    if (results.length !== 1) return null;
    const after = subshapes(scope, results[0]!, "face");
    if (after.length === before.length) return null;
    const place = new ShapeMap<number>();
    after.forEach((face, i) => {
      place.set(face, i);
    });
    const sources: number[][] = after.map(() => []);
    before.forEach((face, i) => {
      for (const image of imagesOf(scope, algorithm, face)) {
        const at = place.get(image);
        if (at !== undefined) sources[at]!.push(i);
      }
    });
    if (sources.some((list) => list.length === 0)) return null;
    return { shape: ownHandle(results[0]!), sources };
  });
}
