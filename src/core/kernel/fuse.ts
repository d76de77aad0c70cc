import { isDelicate, ownTurn } from "./delicate";
import { KernelFault } from "./faults";
import { type FaceUse, type Fusion, fuseOnce } from "./general-fuse";
import { fuseHalved } from "./halved";
import { formVolume, roughArea } from "./mass";
import { openEdges } from "./measure";
import { contradiction } from "./opinion";
import { scoped } from "./scope";
import { surfacesOf } from "./surfaces";
import { freeShape, type Orientation, type Shape, shapeKind, subshapes } from "./topology";
import { placed } from "./transform";
import type { Vec3 } from "./vectors";

/** How an attempt hands its arguments to the library. */
interface Attempt {
  reversed: boolean;
  fuzzy: number;
  /** Bodies that are round as a whole turned about their own axes: only where the library begins to go round moves. */
  turned: boolean;
}

const ATTEMPTS: Attempt[] = [0, 1e-5].flatMap((fuzzy) =>
  [false, true].flatMap((turned) => [false, true].map((reversed) => ({ reversed, fuzzy, turned }))),
);

/** Radians: no drawing has this angle. */
const ASTRAY = 0.7153;

/**
 * Divides all arguments by one another (the general fuse of the library) without changing them.
 *
 * The library can divide wrongly without a word, above all where faces are tangent or coincide. So every result is weighed:
 * the parts of a face have to cover it, the cells of a solid have to fill it, and where the arguments lie delicately to each
 * other (`isDelicate`), cells have to be closed and triangles have to agree on what lies in what (`contradiction`). What does
 * not add up is done again with the arguments the other way round, with round bodies begun elsewhere, with a
 * tolerance of 1e-5 mm, and with round bodies parted first.
 * @param crossings whether it will be asked where something crosses a face; finding that out takes time.
 * @throws KernelFault when the library reports an error, or when no attempt adds up: with a place, where one is known.
 */
export function fuse(args: readonly Shape[], crossings = true): Fusion {
  const delicate = isDelicate(args);
  let failure: unknown;
  let at: Vec3 | null = null;
  for (const attempt of ATTEMPTS) {
    const turned = attempt.turned ? turnedArgs(args) : null;
    if (attempt.turned && !turned) continue;
    const given = turned ?? args;
    try {
      const made = attempt.reversed
        ? turnedRound(fuseOnce([...given].reverse(), attempt.fuzzy, crossings))
        : fuseOnce(given, attempt.fuzzy, crossings);
      const fusion = withTurned(made, args, turned);
      const fault = faultOf(given, fusion, delicate);
      if (!fault) return fusion;
      at ??= fault.at;
      fusion.free();
    } catch (cause) {
      freeTurned(args, turned);
      if (cause instanceof KernelFault && cause.fatal) throw cause;
      failure = cause;
    }
  }
  if (delicate)
    for (const turned of [null, turnedArgs(args)]) {
      const given = turned ?? args;
      try {
        const halved = fuseHalved(given, crossings);
        if (!halved) break;
        const fusion = withTurned(halved, args, turned);
        if (!faultOf(given, fusion, true)) return fusion;
        fusion.free();
      } catch (cause) {
        if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
        failure ??= cause;
      }
    }
  if (at || !failure)
    throw new KernelFault(
      "The bodies could not be divided by one another: the pieces do not add up to the whole.",
      false,
      at,
    );
  throw failure;
}

/** Frees the copies of arguments that were turned. */
function freeTurned(args: readonly Shape[], turned: readonly Shape[] | null): void {
  for (const shape of turned ?? []) if (!args.includes(shape)) freeShape(shape);
}

/** A division of turned arguments, which last as long as it does. */
function withTurned(fusion: Fusion, args: readonly Shape[], turned: readonly Shape[] | null): Fusion {
  if (!turned) return fusion;
  return {
    ...fusion,
    free() {
      fusion.free();
      freeTurned(args, turned);
    },
  };
}

/** The arguments with those that are round as a whole turned about their own axes; null where none is. */
function turnedArgs(args: readonly Shape[]): Shape[] | null {
  const turns = args.map(ownTurn);
  if (turns.every((turn) => turn === null)) return null;
  return args.map((arg, i) => {
    const turn = turns[i];
    // Each by another angle: what began in one place together begins apart.
    return turn ? placed(arg, { about: turn.at, axis: turn.axis, angle: ASTRAY * (i + 1), by: [0, 0, 0] }) : arg;
  });
}

/** What is wrong with a division, and where, as far as that is known; null where nothing is. */
function faultOf(args: readonly Shape[], fusion: Fusion, delicate: boolean): { at: Vec3 | null } | null {
  if (!addsUp(args, fusion)) return { at: null };
  if (!delicate) return null;
  for (const { shape } of fusion.cells) {
    const [open] = openEdges(shape);
    if (open) return { at: open.at };
  }
  const at = contradiction(args, fusion);
  if (at) return { at };
  const short = args.findIndex((arg, a) => shapeKind(arg) === "solid" && !fillsExactly(arg, a, fusion));
  return short < 0 ? null : { at: null };
}

/** How far the cells of a solid may be off it, relative, where both have closed forms. */
const FILLING = 1e-6;

/** Whether the volumes of a solid's cells add up to its own, as far as they can be said exactly. */
function fillsExactly(arg: Shape, a: number, { cells }: Fusion): boolean {
  const whole = formVolume(arg);
  const parts = cells.filter(({ within }) => within.includes(a)).map(({ shape }) => formVolume(shape));
  if (whole === null || parts.some((part) => part === null)) return true;
  const sum = parts.reduce<number>((total, part) => total + part!, 0);
  return Math.abs(sum - whole) <= FILLING * Math.abs(whole);
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
