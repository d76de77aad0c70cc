import { type Deviation, tellDeviation } from "../../deviation";
import { tellStage } from "../../stage";
import { boxOf } from "../facts/box";
import { notedGap, widestGap } from "../facts/gaps";
import { areaOf, faceMass, formVolume, roughArea, volumeOf } from "../facts/mass";
import { openEdges } from "../facts/measure";
import { pointOnFace } from "../facts/on-face";
import { showsAll, unsoundness } from "../facts/soundness";
import { surfacesOf } from "../facts/surfaces";
import { KernelFault } from "../library/faults";
import { scoped } from "../library/scope";
import { facesOf, freeShape, type Orientation, type Shape, shapeKind, subshapes } from "../library/topology";
import { placed } from "../make/transform";
import { centre, diagonal, type Vec3 } from "../space/vectors";
import { isDelicate, ownTurn } from "./delicate";
import { type Cell, type FaceUse, type Fusion, fuseOnce } from "./general-fuse";
import { fuseHalved, PARTINGS } from "./halved";
import { hangingCut, isElementary, isScratched, MANY_FACES } from "./hanging-cut";
import { refuseLeaningCones } from "./leaning-cones";
import { longestStub, looseLines, unparted } from "./loose-lines";
import { onBothSides } from "./one-side";
import { Opinion } from "./opinion";

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

/** mm: tolerances for bodies whose own edges lie on their faces no better, as those of other programs do. */
const COARSE = [1e-4, 1e-3];

/** Radians: no drawing has this angle. */
const ASTRAY = 0.7153;

/**
 * Divides all arguments by one another (the general fuse of the library) without changing them.
 *
 * The library can divide wrongly without a word, above all where faces are tangent or coincide. So every result is weighed:
 * the parts of a face have to cover it, the cells of a solid have to fill it, and where the arguments lie delicately to each
 * other (`isDelicate`), cells have to be closed and triangles have to agree on what lies in what (`Opinion`). What does
 * not add up is done again with the arguments the other way round, with round bodies begun elsewhere, with a
 * tolerance of 1e-5 mm, with a coarser one where a cut was lost, and with round bodies parted first.
 * @param crossings whether it will be asked where something crosses a face; finding that out takes time.
 * @param divided how many of the arguments, from the first, are what is divided: of the others only what lies in those is used, so
 * that what becomes of them elsewhere need not be sound.
 * @throws LeaningCones where it is known beforehand that none will, and KernelFault when the library reports an error, or when no
 * attempt adds up: with a place, where one is known.
 */
export function fuse(args: readonly Shape[], crossings = true, divided = args.length): Fusion {
  const delicate = isDelicate(args);
  if (delicate) refuseLeaningCones(args);
  const opinion = delicate ? new Opinion(args, divided) : null;
  let failure: unknown;
  let at: Vec3 | null = null;
  /** The best of those whose parts meet badly: it is taken where no other way gives a closer one. */
  let best: { fusion: Fusion; gap: number; off: Deviation | null } | null = null;
  // What cells note beyond what the arguments did is looked at; on few plain faces the library was never seen to leave a gap, and
  // where it does, it is told.
  const many = args.reduce((sum, arg) => sum + facesOf(arg).length, 0) > MANY_FACES;
  const noted = many ? Math.max(CLOSE, 1.01 * Math.max(...args.map(notedGap))) : Number.POSITIVE_INFINITY;
  let way = 0;
  const seen: Seen = { hanging: false, gap: null };
  for (const attempt of attempts(args, crossings, delicate, seen)) {
    tellStage(++way === 1 ? "dividing" : `dividing, in another way (${way})`);
    try {
      const fusion = attempt();
      if (!fusion) continue;
      const fault = faultOf(args, fusion, opinion, divided);
      if (fault) {
        seen.hanging ||= fault.hanging === true;
        try {
          at ??= fault.at();
        } finally {
          fusion.free();
        }
        continue;
      }
      const made = fusion.cells.filter(({ within }) => within.some((a) => a < divided));
      const looked = delicate || (many && made.some(({ shape }) => notedGap(shape) > noted));
      const parted = looked ? gapOf(args, made) : 0;
      const off = opinion ? opinion.misplaced(fusion, Math.max(CLOSE, 2 * parted)) : null;
      const stub = longestStub(looseLines(args, fusion, divided), fusion);
      // However short it is, it ends within a face, and is worth another try.
      const gap = Math.max(parted, off?.size ?? 0, stub > 0 ? Math.max(stub, 1.01 * CLOSE) : 0);
      if (parted > LOOSE * sizeOf(args) || (off && off.size > MISPLACED)) {
        at ??= off?.at ?? widestOf(made)?.at ?? null;
        fusion.free();
        continue;
      }
      fusion.delicate = delicate;
      if (gap <= CLOSE) {
        best?.fusion.free();
        return fusion;
      }
      seen.gap = gap;
      if (best && best.gap <= gap) fusion.free();
      else {
        best?.fusion.free();
        best = { fusion, gap, off };
      }
    } catch (cause) {
      if (!(cause instanceof KernelFault) || cause.fatal) {
        best?.fusion.free();
        throw cause;
      }
      failure ??= cause;
    }
  }
  if (best) {
    // Edges note how far they are from their faces, and that is told where what was made is weighed. This nothing notes.
    if (best.off) tellDeviation(best.off);
    return best.fusion;
  }
  if (at || !failure)
    throw new KernelFault(
      "The bodies could not be divided by one another: the pieces do not add up to the whole.",
      false,
      at,
    );
  throw failure;
}

/** What came of the ways that were tried. */
interface Seen {
  /** Whether one lost a cut. */
  hanging: boolean;
  /** mm: how far apart the parts or lines were that the last one made, where all else was right. */
  gap: number | null;
}

/** The ways to divide, the plain one first. Each gives null where it does not apply. */
function* attempts(
  args: readonly Shape[],
  crossings: boolean,
  delicate: boolean,
  seen: Seen,
): Generator<() => Fusion | null> {
  // Where both orders leave the same gap, to the last digit, that is how the library draws the crossing: no tolerance draws it closer.
  const drawn = new Set<boolean>();
  for (const { turned, fuzzy, reversed } of ATTEMPTS) {
    if (drawn.has(turned)) continue;
    const before = reversed ? seen.gap : null;
    seen.gap = null;
    yield () =>
      withTurned(args, turned, (given) =>
        reversed ? turnedRound(fuseOnce([...given].reverse(), fuzzy, crossings)) : fuseOnce(given, fuzzy, crossings),
      );
    if (seen.gap !== null && seen.gap === before) drawn.add(turned);
  }
  // Lines of a cut that do not meet are made to: what that moves is told where the result is weighed.
  if (seen.hanging)
    for (const fuzzy of COARSE)
      for (const given of [args, [...args].reverse()])
        yield () =>
          given === args ? fuseOnce(given, fuzzy, crossings) : turnedRound(fuseOnce(given, fuzzy, crossings));
  if (delicate)
    for (const manner of PARTINGS)
      for (const turned of [false, true])
        yield () => withTurned(args, turned, (given) => fuseHalved(given, crossings, manner));
}

/** mm: how far the parts of what a division made may be apart. Beyond it other ways are tried, and the closest is taken. */
const CLOSE = 5e-5;

/** mm: how far a division may be off where skins cross that the library did not see to. Beyond it that is another division. */
const MISPLACED = 1e-3;

/** How far they may be apart at all, as a part of the smallest body's size: what is looser is no division. */
const LOOSE = 1e-4;

const sizeOf = (args: readonly Shape[]) =>
  Math.min(...args.flatMap((arg) => (shapeKind(arg) === "solid" ? [diagonal(boxOf(arg) ?? NOWHERE)] : [1e3])));

const NOWHERE = { min: [0, 0, 0], max: [0, 0, 0] } as const;

/** How far apart the parts of what a division made are at most, beyond those of what it was given: mm. */
function gapOf(args: readonly Shape[], made: readonly Cell[]): number {
  const given = Math.max(0, ...args.map((arg) => widestGap(arg)?.size ?? 0));
  const widest = widestOf(made)?.size ?? 0;
  return widest > given ? widest : 0;
}

/** The widest of the gaps in what a division made, and where. */
function widestOf(made: readonly Cell[]): { size: number; at: Vec3 } | null {
  const gaps = made.flatMap(({ shape }) => widestGap(shape) ?? []);
  return gaps.reduce<(typeof gaps)[number] | null>((most, gap) => (most && most.size >= gap.size ? most : gap), null);
}

/** A division of the arguments, or of turned ones, which last as long as it does; null where none can be turned. */
function withTurned(
  args: readonly Shape[],
  turned: boolean,
  divide: (given: readonly Shape[]) => Fusion | null,
): Fusion | null {
  if (!turned) return divide(args);
  const given = turnedArgs(args);
  if (!given) return null;
  const free = () => {
    for (const shape of given) if (!args.includes(shape)) freeShape(shape);
  };
  try {
    const fusion = divide(given);
    if (!fusion) {
      free();
      return null;
    }
    return {
      ...fusion,
      free() {
        fusion.free();
        free();
      },
    };
  } catch (cause) {
    free();
    throw cause;
  }
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

interface Fault {
  /** Where: asked for once, as finding a place on a face takes time. */
  at(): Vec3 | null;
  /** Whether a cut was lost. */
  hanging?: boolean;
}

/** What is wrong with a division, and where, as far as that is known; null where nothing is. */
function faultOf(args: readonly Shape[], fusion: Fusion, opinion: Opinion | null, divided: number): Fault | null {
  const delicate = opinion !== null;
  const lacking = lackingFace(args, fusion, divided);
  if (lacking) return { at: () => pointOnFace(lacking) };
  // Plain bodies of planes, bars and balls are what the library does best: hanging cuts are looked for there alone.
  const odd = delicate || !args.every(isElementary) || args.some((arg, a) => isScratched(arg, a, fusion));
  const hanging = hangingCut(args, fusion, delicate) ?? (odd ? onBothSides(args, fusion) : null);
  if (hanging) return { at: () => hanging, hanging: true };
  const ends = unparted(args, looseLines(args, fusion, divided), fusion);
  if (ends) return { at: () => ends, hanging: true };
  if (!opinion) return null;
  tellStage("weighing the pieces");
  for (const cell of fusion.cells) {
    const { shape, within } = cell;
    if (within.every((a) => a >= divided)) continue;
    const [open] = openEdges(shape);
    if (open) return { at: () => open.at };
    if (unsoundness(shape, "solid", showsAll(opinion.drawnOf(fusion).cell(cell)))) return { at: () => middleOf(shape) };
  }
  const at = opinion.contradiction(fusion);
  if (at) return { at: () => at };
  const short = args.findIndex((arg, a) => a < divided && shapeKind(arg) === "solid" && !fillsExactly(args, a, fusion));
  return short < 0 ? null : { at: () => widestOf(fusion.cells)?.at ?? middleOf(args[short]!) };
}

const middleOf = (shape: Shape): Vec3 | null => {
  const box = boxOf(shape);
  return box && centre(box);
};

/** How far the cells of a solid may be off it, relative, where both have closed forms; and where one has not. */
const FILLING = 1e-6;
const ROUGHLY = 1e-2;
/** mm: gaps up to here are of no account. */
const UNSAID = 1e-6;

/** Whether the volumes of a solid's cells add up to its own, as far as they can be said exactly. */
function fillsExactly(args: readonly Shape[], a: number, { cells }: Fusion): boolean {
  const arg = args[a]!;
  const parts = cells.filter(({ within }) => within.includes(a)).map(({ shape }) => shape);
  const exact = [arg, ...parts].every((shape) => formVolume(shape) !== null);
  const whole = volumeOf(arg);
  const sum = parts.reduce((total, part) => total + volumeOf(part), 0);
  // What the skin of a body leaves open, as those of other programs do, no division can fill: neither of it, nor of what it divides.
  const gap = Math.max(...args.map((other) => widestGap(other)?.size ?? 0));
  const open = gap > UNSAID ? gap * areaOf(arg) : 0;
  return Math.abs(sum - whole) <= (exact ? FILLING : ROUGHLY) * Math.abs(whole) + open;
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
 * A face at which a division does not conserve what it divided; null where it does. Two things together say that every solid's cells fill it
 * exactly: the parts of each face cover that face, and the cells within a solid use each part of its skin once, from the inside,
 * and every face between them from both sides.
 */
function lackingFace(args: readonly Shape[], fusion: Fusion, divided: number): Shape | null {
  const weigh = mayCoincide(args);
  for (const [a, arg] of args.entries()) {
    // Nothing is left open where a face of a sheet is lost.
    const sheet = a < divided && shapeKind(arg) !== "solid";
    const uncovered = sheet
      ? uncoveredFace(arg, fusion.images[a]!, fusion, sheetAreas)
      : weigh
        ? uncoveredFace(arg, fusion.images[a]!, fusion, curvedAreas)
        : null;
    if (uncovered !== null) return facesOf(arg)[uncovered]!;
    const odd = shapeKind(arg) === "solid" ? oddFace(a, fusion) : null;
    if (odd !== null) return fusion.faceHandle(odd);
  }
  return null;
}

/**
 * Whether curved faces of two arguments may lie on one surface. Only there has the library been seen to lose a part of
 * a face and close the cell all the same; anywhere else a face that were not covered leaves its cell open, which the
 * cells' own check finds. Surfaces without a signature may be anything of their kind.
 */
function mayCoincide(args: readonly Shape[]): boolean {
  const seen = new Set<string>();
  for (const arg of args) {
    for (const key of curvedSurfaces(arg)) {
      if (seen.has(key)) return true;
      seen.add(key);
    }
  }
  return false;
}

const knownCurved = new WeakMap<Shape, ReadonlySet<string>>();

/** The curved surfaces that a shape's faces lie on: by their signatures, or kinds. */
function curvedSurfaces(shape: Shape): ReadonlySet<string> {
  let curved = knownCurved.get(shape);
  if (!curved) {
    curved = new Set(surfacesOf(shape).flatMap(({ kind, signature }) => (kind === "plane" ? [] : [signature ?? kind])));
    knownCurved.set(shape, curved);
  }
  return curved;
}

/** How a face is held against its parts: by areas, of each face of a body in order; null where it is not looked at. */
interface Areas {
  of(arg: Shape): (number | null)[];
  ofPart(part: Shape): number;
}

/** The curved faces of a solid, roughly. The same shapes are divided again and again while a person works. */
const curvedAreas: Areas = {
  of: kept((arg) => {
    const surfaces = surfacesOf(arg);
    return scoped((scope) =>
      subshapes(scope, arg, "face").map((face, i) => (surfaces[i]!.kind === "plane" ? null : roughArea(face))),
    );
  }),
  ofPart: roughArea,
};

/** All faces of a sheet, as exactly as can be: free ones are off by more than a part of them when taken roughly. */
const sheetAreas: Areas = {
  of: kept((arg) => facesOf(arg).map((_, place) => faceMass(arg, place).area)),
  ofPart: areaOf,
};

function kept<T>(find: (arg: Shape) => T): (arg: Shape) => T {
  const known = new WeakMap<Shape, T>();
  return (arg) => {
    let found = known.get(arg);
    if (found === undefined) {
      found = find(arg);
      known.set(arg, found);
    }
    return found;
  };
}

/** The first face of an argument that is looked at, by place, which its parts do not cover; null where there is none. */
function uncoveredFace(arg: Shape, images: FaceUse[][], fusion: Fusion, areas: Areas): number | null {
  const uncovered = images.findIndex((parts, f) => {
    if (parts.length === 1 && fusion.unchanged.has(parts[0]!.face)) return false;
    const area = areas.of(arg)[f]!;
    if (area === null) return false;
    const covered = parts.reduce((sum, { face }) => sum + areas.ofPart(fusion.faceHandle(face)), 0);
    return !(Math.abs(covered - area) <= COVERING * area);
  });
  return uncovered < 0 ? null : uncovered;
}

/** A face of the arrangement that the cells within a solid do not use as they have to; null where there is none. */
function oddFace(a: number, { cells, images }: Fusion): number | null {
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
    if (own === undefined ? signs.length !== 2 || signs[0] === signs[1] : signs.length !== 1) return face;
  }
  return [...skin.keys()].find((face) => !seen.has(face)) ?? null;
}
