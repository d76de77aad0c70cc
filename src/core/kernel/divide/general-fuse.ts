import type { BRepAlgoAPI_BuilderAlgo } from "replicad-opencascadejs";
import { type Surface, surfacesOf } from "../facts/surfaces";
import { KernelFault } from "../library/faults";
import { lib } from "../library/library";
import { Scope, scoped } from "../library/scope";
import {
  asEdge,
  facesOf,
  fromList,
  listOf,
  type Orientation,
  occurrences,
  orientation,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "../library/topology";

/** A face of the arrangement as some body or cell has it. Faces are numbered; equal numbers are one face. */
export interface FaceUse {
  face: number;
  sign: Orientation;
}

export interface Cell {
  /** A solid; it lasts until `Fusion.free`, or as long as the argument that it is. */
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
  /** The faces that the division left as they were. */
  unchanged: ReadonlySet<number>;
  /** Whether the arguments lie delicately to each other: nearly tangent, nearly parallel, nearly in one another. */
  delicate?: boolean;
  /** A handle for a numbered face, valid until `free`. */
  faceHandle(face: number): Shape;
  /** What a numbered face lies on. */
  surface(face: number): Surface;
  /** The edges of a face: number, whether it came from two arguments crossing, and whether it lies in the face without bounding it. */
  faceEdges(face: number): { edge: number; crossing: boolean; loose: boolean }[];
  /** A handle for a numbered edge, valid until `free`. */
  edgeHandle(edge: number): Shape;
  free(): void;
}

/** Divides arguments by one another, once, as the library does it: nothing is weighed. @throws KernelFault */
export function fuseOnce(args: readonly Shape[], fuzzy: number, crossings: boolean): Fusion {
  const oc = lib();
  /** What lasts as long as the fusion does. */
  const lasting = new Scope();
  const free = () => lasting.free();
  try {
    return scoped((scope) => {
      const algorithm = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
      algorithm.SetArguments(listOf(scope, args));
      algorithm.SetNonDestructive(true);
      // Every solid comes here right side out: what makes or reads one sees to it, so asking again only takes time.
      algorithm.SetCheckInverted(false);
      if (fuzzy > 0) algorithm.SetFuzzyValue(fuzzy);
      algorithm.Build();
      if (algorithm.HasErrors()) throw new KernelFault("The bodies could not be divided by one another.", false);

      const faceNumbers = new ShapeMap<number>();
      const faceHandles: Shape[] = [];
      /** @param face by a handle that lasts as long as the fusion. */
      const numberOf = (face: Shape): number =>
        faceNumbers.ensure(face, () => ({ handle: face, value: faceHandles.push(face) - 1 }));

      const cells: Cell[] = [];
      const cellNumbers = new ShapeMap<number>();
      args.forEach((arg, a) => {
        for (const solid of solidsOf(scope, arg)) {
          for (const image of imagesOf(scope, lasting, algorithm, solid)) {
            const number = cellNumbers.ensure(image, () => {
              // A solid that is one of several in an argument, and is as it was, has a handle of this scope.
              const shape = image === solid && solid !== arg ? lasting.use(oc.TopoDS.Solid(image)) : image;
              const faces = occurrences(lasting, shape, "face").map((face) => ({
                face: numberOf(face),
                sign: orientation(face),
              }));
              return { handle: shape, value: cells.push({ shape, faces, within: [] }) - 1 };
            });
            if (!cells[number]!.within.includes(a)) cells[number]!.within.push(a);
          }
        }
      });

      const unchanged = new Set<number>();
      const images = args.map((arg) =>
        facesOf(arg).map((face): FaceUse[] => {
          // A face that bounds a cell as it was became nothing else: that is known without asking for it.
          const as = faceNumbers.get(face);
          if (as !== undefined) {
            unchanged.add(as);
            return [{ face: as, sign: orientation(face) }];
          }
          // The handles of an argument's own faces last as long as the argument.
          const changed = imagesOf(scope, lasting, algorithm, face);
          const uses = changed.map((image) => ({ face: numberOf(image), sign: orientation(image) }));
          if (changed.length === 1 && changed[0] === face) unchanged.add(uses[0]!.face);
          return uses;
        }),
      );

      keepWhole(args, cells, images);
      const crossing = new ShapeMap<true>();
      if (crossings)
        for (const edge of fromList(lasting, scope.use(algorithm.SectionEdges()))) crossing.set(edge, true);
      const edgeNumbers = new ShapeMap<number>();
      const edgeHandles: Shape[] = [];
      const edgesOfFace = new Map<number, ReturnType<Fusion["faceEdges"]>>();
      const surfaces: Surface[] = [];
      images.forEach((ofArg, a) => {
        const own = surfacesOf(args[a]!);
        ofArg.forEach((parts, f) => {
          for (const { face } of parts) surfaces[face] ??= own[f]!;
        });
      });
      return {
        cells,
        images,
        unchanged,
        faceHandle: (face) => faceHandles[face]!,
        surface: (face) => surfaces[face]!,
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
                  const own = lasting.use(oc.TopoDS.Edge(edge));
                  edgeHandles.push(own);
                  edgeNumbers.set(own, number);
                }
                return { edge: number, crossing: crossing.get(edge) === true, loose: orientation(edge) === 0 };
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

/**
 * A cell that is one argument as it was, face by face, is that argument: where others only touch it, the library leaves
 * lines in its faces that bound nothing.
 */
function keepWhole(args: readonly Shape[], cells: Cell[], images: readonly FaceUse[][][]): void {
  for (const cell of cells) {
    const [a, ...others] = cell.within;
    if (a === undefined || others.length > 0 || shapeKind(args[a]!) !== "solid") continue;
    const own = images[a]!;
    if (own.some((parts) => parts.length !== 1) || cell.faces.some(({ sign }) => sign === 0)) continue;
    const skin = own.map((parts) => parts[0]!);
    const faces = new Set(skin.map(({ face }) => face));
    if (faces.size !== cell.faces.length || cell.faces.some(({ face }) => !faces.has(face))) continue;
    cell.shape = args[a]!;
    cell.faces = skin;
  }
}

/** The solids of an argument: most are one, or have none. */
function solidsOf(scope: Scope, arg: Shape): Shape[] {
  const kind = shapeKind(arg);
  if (kind === "solid") return [arg];
  return kind === "compound" ? subshapes(scope, arg, "solid") : [];
}

/** What a face or solid became: itself, or shapes by handles that last. */
function imagesOf(scope: Scope, lasting: Scope, algorithm: BRepAlgoAPI_BuilderAlgo, shape: Shape): Shape[] {
  const modified = scope.use(algorithm.Modified(shape));
  if (modified.Size() > 0) return fromList(lasting, modified);
  return algorithm.IsDeleted(shape) ? [] : [shape];
}
