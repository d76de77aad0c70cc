import type { BRepAlgoAPI_BuilderAlgo, TopAbs_Orientation } from "replicad-opencascadejs";
import { Groups } from "../groups";
import { KernelFault } from "./faults";
import { lib } from "./library";
import { roughArea } from "./mass";
import { type Scope, scoped } from "./scope";
import { type Surface, surfacesOf } from "./surfaces";
import {
  asEdge,
  asFace,
  facesOf,
  freeShape,
  fromList,
  listOf,
  type Orientation,
  occurrences,
  orientation,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "./topology";

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
  /** The faces that the division left as they were. */
  unchanged: ReadonlySet<number>;
  /** A handle for a numbered face, valid until `free`. */
  faceHandle(face: number): Shape;
  /** What a numbered face lies on. */
  surface(face: number): Surface;
  /** The edges round a face: number, and whether it came from two arguments crossing. */
  faceEdges(face: number): { edge: number; crossing: boolean }[];
  /** A handle for a numbered edge, valid until `free`. */
  edgeHandle(edge: number): Shape;
  free(): void;
}

/** How an attempt hands its arguments to the library. */
const ATTEMPTS: { reversed: boolean; fuzzy: number }[] = [
  { reversed: false, fuzzy: 0 },
  { reversed: true, fuzzy: 0 },
  { reversed: false, fuzzy: 1e-5 },
  { reversed: true, fuzzy: 1e-5 },
];

/**
 * Divides all arguments by one another (the general fuse of the library) without changing them.
 *
 * The library can divide wrongly without a word, above all where curved faces coincide. So every result is weighed:
 * the parts of a face have to cover it, the cells of a solid have to fill it. What does
 * not add up is done again with the arguments the other way round, then with a tolerance of 1e-5 mm.
 * @param crossings whether it will be asked where something crosses a face; finding that out takes time.
 * @throws KernelFault when the library reports an error, or when no attempt adds up.
 */
export function fuse(args: readonly Shape[], crossings = true): Fusion {
  let failure: unknown;
  for (const { reversed, fuzzy } of ATTEMPTS) {
    try {
      const fusion = reversed
        ? turnedRound(fuseOnce([...args].reverse(), fuzzy, crossings))
        : fuseOnce(args, fuzzy, crossings);
      if (addsUp(args, fusion)) return fusion;
      fusion.free();
    } catch (cause) {
      if (cause instanceof KernelFault && cause.fatal) throw cause;
      failure = cause;
    }
  }
  throw (
    failure ??
    new KernelFault("The bodies could not be divided by one another: the pieces do not add up to the whole.", false)
  );
}

/** Numbers the arguments of a fusion from the other end. */
function turnedRound(fusion: Fusion): Fusion {
  const last = fusion.images.length - 1;
  for (const cell of fusion.cells) cell.within = cell.within.map((a) => last - a).sort((a, b) => a - b);
  return { ...fusion, images: [...fusion.images].reverse() };
}

/** How far the parts of a curved face may be off the whole: a lost part or a taken complement is far more. */
const COVERING = 1e-2;

/**
 * Whether a division conserves what it divided. Two things together say that every solid's cells fill it exactly: the
 * parts of each face cover that face, and the cells within a solid use each part of its skin once, from the inside,
 * and every face between them from both sides.
 */
function addsUp(args: readonly Shape[], fusion: Fusion): boolean {
  const weigh = mayCoincide(args);
  return args.every(
    (arg, a) =>
      (!weigh || facesCovered(arg, fusion.images[a]!, fusion)) && (shapeKind(arg) !== "solid" || cellsFill(a, fusion)),
  );
}

/**
 * Whether curved faces of two arguments may lie on one surface. Only there has the library been seen to lose a part of
 * a face and close the cell all the same; anywhere else a face that were not covered leaves its cell open, which the
 * cells' own check finds. Surfaces without a signature may be anything of their kind.
 */
function mayCoincide(args: readonly Shape[]): boolean {
  const seen = new Set<string>();
  for (const arg of args) {
    const own = new Set(
      surfacesOf(arg).flatMap(({ kind, signature }) => (kind === "plane" ? [] : [signature ?? kind])),
    );
    for (const key of own) {
      if (seen.has(key)) return true;
      seen.add(key);
    }
  }
  return false;
}

/** The areas of an argument's curved faces: the same shapes are divided again and again while a person works. */
const knownAreas = new WeakMap<Shape, (number | null)[]>();

function facesCovered(arg: Shape, images: FaceUse[][], fusion: Fusion): boolean {
  let areas = knownAreas.get(arg);
  return images.every((parts, f) => {
    if (parts.length === 1 && fusion.unchanged.has(parts[0]!.face)) return true;
    if (!areas) {
      const surfaces = surfacesOf(arg);
      areas = scoped((scope) =>
        subshapes(scope, arg, "face").map((face, i) => (surfaces[i]!.kind === "plane" ? null : roughArea(face))),
      );
      knownAreas.set(arg, areas);
    }
    const area = areas[f]!;
    if (area === null) return true;
    const covered = parts.reduce((sum, { face }) => sum + roughArea(fusion.faceHandle(face)), 0);
    return Math.abs(covered - area) <= COVERING * area;
  });
}

function cellsFill(a: number, { cells, images }: Fusion): boolean {
  const skin = new Map<number, Orientation>();
  for (const { face, sign } of images[a]!.flat()) skin.set(face, sign);
  const seen = new Map<number, number[]>();
  for (const cell of cells) {
    if (!cell.within.includes(a)) continue;
    for (const { face, sign } of cell.faces) {
      if (sign === 0) continue;
      const signs = seen.get(face);
      if (signs) signs.push(sign);
      else seen.set(face, [sign]);
    }
  }
  for (const [face, signs] of seen) {
    const own = skin.get(face);
    if (own === undefined ? signs.length !== 2 || signs[0] === signs[1] : signs.length !== 1) return false;
  }
  return [...skin.keys()].every((face) => seen.has(face));
}

function fuseOnce(args: readonly Shape[], fuzzy: number, crossings: boolean): Fusion {
  const oc = lib();
  const held: Shape[] = [];
  const keep = (own: Shape): Shape => {
    held.push(own);
    return own;
  };
  const free = () => {
    for (const shape of held) freeShape(shape);
    held.length = 0;
  };
  try {
    return scoped((scope) => {
      const algorithm = scope.use(new oc.BRepAlgoAPI_BuilderAlgo());
      algorithm.SetArguments(listOf(scope, args));
      algorithm.SetNonDestructive(true);
      // Every solid comes here right side out: what makes or reads one sees to it, so asking again only takes time.
      algorithm.SetCheckInverted(false);
      if (fuzzy > 0) algorithm.SetFuzzyValue(fuzzy);
      algorithm.Build(scope.use(new oc.Message_ProgressRange()));
      if (algorithm.HasErrors()) throw new KernelFault("The bodies could not be divided by one another.", false);

      const unchanged = new Set<number>();
      const faceNumbers = new ShapeMap<number>();
      const faceHandles: Shape[] = [];
      const numberOf = (face: Shape, lasting = false): number =>
        faceNumbers.ensure(face, () => {
          const handle = lasting ? face : keep(oc.TopoDS.Face(face));
          return { handle, value: faceHandles.push(handle) - 1 };
        });
      const images = args.map((arg) =>
        facesOf(arg).map((face): FaceUse[] => {
          const changed = imagesOf(scope, algorithm, face);
          const same = changed.length === 1 && changed[0] === face;
          // The handles of an argument's own faces last as long as the argument.
          const uses = changed.map((image) => ({ face: numberOf(image, same), sign: orientation(image) }));
          if (same) unchanged.add(uses[0]!.face);
          return uses;
        }),
      );

      const cells: Cell[] = [];
      const cellNumbers = new ShapeMap<number>();
      args.forEach((arg, a) => {
        for (const solid of solidsOf(scope, arg)) {
          for (const image of imagesOf(scope, algorithm, solid)) {
            const number = cellNumbers.ensure(image, () => {
              const shape = keep(oc.TopoDS.Solid(image));
              const faces = occurrences(scope, shape, "face").map((face) => ({
                face: numberOf(face),
                sign: orientation(face),
              }));
              return { handle: shape, value: cells.push({ shape, faces, within: [] }) - 1 };
            });
            if (!cells[number]!.within.includes(a)) cells[number]!.within.push(a);
          }
        }
      });

      const crossing = new ShapeMap<true>();
      if (crossings)
        for (const edge of fromList(scope, algorithm.SectionEdges())) crossing.set(keep(oc.TopoDS.Edge(edge)), true);
      const edgeNumbers = new ShapeMap<number>();
      const edgeHandles: Shape[] = [];
      const edgesOfFace = new Map<number, { edge: number; crossing: boolean }[]>();
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
                  const own = keep(oc.TopoDS.Edge(edge));
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

/** The solids of an argument: most are one, or have none. */
function solidsOf(scope: Scope, arg: Shape): Shape[] {
  const kind = shapeKind(arg);
  if (kind === "solid") return [arg];
  return kind === "compound" ? subshapes(scope, arg, "solid") : [];
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
    const groups = new Groups(faces.length);
    const first = new ShapeMap<number>();
    faces.forEach((face, i) => {
      for (const edge of occurrences(scope, face, "edge")) {
        const other = first.get(edge);
        if (other === undefined) first.set(edge, i);
        else groups.join(i, other);
      }
    });
    return groups.all();
  });
}
