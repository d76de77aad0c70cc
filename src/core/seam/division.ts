import type { Body, Item } from "../items";
import { type Fusion, freeShape, fuse, fuseWithinReach, type Shape, surfaceCentre } from "../kernel";
import { comparePlaces } from "../naming";
import { type Front, frontsOf, largest } from "./fronts";
import { Ids } from "./ids";
import { IN_DECISIONS, IN_NAMES, marksAmong, writeMark } from "./mark";
import { neighboursOf } from "./neighbours";
import { once } from "./once";
import { keyOf, type Piece } from "./piece";
import { type Known, Scene } from "./scene";
import { sheetPieces } from "./sheet-pieces";
import { type Slit, slitsOf } from "./slits";
import { SolidDivider } from "./solid-pieces";
import { type Walls, wallsOf } from "./walls";

/** Something that divides: a body, or a workplane cut as a face larger than all that it could cut. */
export interface Knife {
  item: Item;
  shape: Shape;
  faces: string[];
  /** For each face, −1 where its front is behind its normal, 0 where it tells no sides apart; all 1 where left out. */
  turns?: readonly number[];
  /** Whether it says nothing of where a piece lies: what closes openings, which nobody picked. */
  mute?: boolean;
}

/** A cutter's faces that lie inside a piece without dividing it. */
export interface Dangling {
  cutter: string;
  stock: string;
  fusion: Fusion;
  faces: number[];
  /** Every face of that cutter in the arrangement, inside the stock or not. */
  all: number[];
}

export interface Division {
  pieces: Piece[];
  dangling: Dangling[];
  /** Where cutters cross stock sheets part of the way. */
  slits: Slit[];
  /** For each stock body that was divided by itself, the cutters that reach it, by id. */
  reached: Map<string, Set<string>>;
  /** Of each piece, by index, those that were cut from it. */
  neighbours(): readonly number[][];
  /** Where each cutter cuts, and which way its front looks there. */
  fronts(): Front[];
  /** What closes pieces of one stock sheet, on one side of each cutter, where they were cut. */
  wallsOf(pieces: readonly Piece[]): Walls;
  /** The name that each face of an arrangement has from the body it came from. */
  nameOf(fusion: Fusion, face: number): string;
  free(): void;
}

export type FoundPiece = Omit<Piece, "index" | "key" | "mark">;

/**
 * Divides stock by cutters, each stock body by itself: stock divides other stock only where it is among the cutters.
 * The result belongs to the caller, who frees it.
 */
export function divideEach(stock: readonly Body[], cutters: readonly Knife[], known: Known = {}): Division {
  const ids = new Ids([...stock.map(({ id }) => id), ...cutters.map(({ item }) => item.id)], known.earlier);
  const others = (body: Body) => cutters.filter(({ item }) => item.id !== body.id);
  return collect(stock.map((body) => () => divideTogether([body], others(body), ids, known)));
}

/** Divides bodies by one another and by cutters: what several of them share is one piece. The result belongs to the caller, who frees it. */
export function divideShared(bodies: readonly Body[], cutters: readonly Knife[], known: Known = {}): Division {
  const ids = new Ids([...bodies.map(({ id }) => id), ...cutters.map(({ item }) => item.id)], known.earlier);
  return collect([() => divideTogether(bodies, cutters, ids, known)]);
}

/** Divides all operands by one another: every cell that they make is a piece. */
export const divideAll = (operands: readonly Body[], known: Known = {}): Division => divideShared(operands, [], known);

/**
 * Divides a room in which everything lies by bodies, planes and drawings: its pieces are what those enclose and none of the solids
 * fills. The result belongs to the caller, who frees it.
 */
export function divideRoom(room: Body, walls: readonly Knife[], known: Known = {}): Division {
  const ids = new Ids(
    walls.map(({ item }) => item.id),
    known.earlier,
  );
  return collect([() => divideTogether([room], walls, ids, known, true)]);
}

interface Arrangement {
  drafts: FoundPiece[];
  dangling: Dangling[];
  slits: Slit[];
  stock: readonly Body[];
  reached: Set<string>;
  fusion: Fusion;
  names: Map<number, string>;
  fronts(): Front[];
  scene: Scene;
  freeShapes(): void;
}

function collect(makers: (() => Arrangement)[]): Division {
  const parts: Arrangement[] = [];
  const free = () => {
    for (const part of parts) {
      part.freeShapes();
      part.fusion.free();
    }
    parts.length = 0;
  };
  try {
    for (const make of makers) parts.push(make());
    const names = new Map(parts.map((part) => [part.fusion, part.names] as const));
    const pieces = ordered(parts.flatMap((part) => part.drafts));
    return {
      pieces,
      dangling: parts.flatMap((part) => part.dangling),
      slits: parts.flatMap((part) => part.slits),
      reached: new Map(parts.flatMap(({ stock, reached }) => stock.map(({ id }) => [id, reached] as const))),
      neighbours: once(() => neighboursOf(pieces)),
      fronts: once(() => largest(parts.flatMap((part) => part.fronts()))),
      wallsOf: (some) => wallsOf(parts.find(({ fusion }) => fusion === some[0]!.fusion)!.scene, some),
      nameOf: (fusion, face) => names.get(fusion)?.get(face) ?? "unnamed",
      free,
    };
  } catch (cause) {
    free();
    throw cause;
  }
}

function divideTogether(
  stock: readonly Body[],
  cutters: readonly Knife[],
  ids: Ids,
  known: Known,
  empty = false,
): Arrangement {
  const args: Knife[] = [
    ...stock.map((body) => ({ item: body as Item, shape: body.shape, faces: body.faces })),
    ...cutters,
  ];
  // Only sheets that are divided ask where something crosses them.
  const crossings = stock.some((body) => body.kind === "sheet");
  // In a room everything encloses; among operands each divides each.
  const fusion =
    empty || cutters.length === 0
      ? fuse(
          args.map((arg) => arg.shape),
          crossings,
        )
      : fuseWithinReach(
          stock.map((body) => body.shape),
          cutters.map((cutter) => cutter.shape),
          crossings,
        );
  const owned: Shape[] = [];
  try {
    // A face that two bodies share keeps the name it has from the first: stock before cutters, as the step lists them.
    const names = new Map<number, string>();
    args.forEach((arg, a) => {
      fusion.images[a]!.forEach((images, f) => {
        for (const { face } of images) if (!names.has(face)) names.set(face, arg.faces[f]!);
      });
    });
    const scene = new Scene(stock, cutters, fusion, names, ids, known, empty);
    const solids = new SolidDivider(scene);
    const drafts = empty ? solids.rooms() : [...solids.pieces(), ...sheetPieces(scene, owned)];
    return {
      drafts,
      dangling: solids.dangling,
      slits: slitsOf(scene),
      stock,
      reached: dividing(cutters, drafts),
      fusion,
      names,
      fronts: () => frontsOf(scene, drafts),
      scene,
      freeShapes: () => {
        for (const shape of owned) freeShape(shape);
      },
    };
  } catch (cause) {
    for (const shape of owned) freeShape(shape);
    fusion.free();
    throw cause;
  }
}

/** The cutters that tell pieces apart: some lie before and some behind, or some inside. */
function dividing(cutters: readonly Knife[], drafts: readonly FoundPiece[]): Set<string> {
  const result = new Set<string>();
  for (const { item } of cutters) {
    const sides = new Set(drafts.map((draft) => draft.sides[item.id]));
    if (sides.size > 1 || sides.has("in") || sides.has("both")) result.add(item.id);
  }
  return result;
}

/** Orders pieces by what they are, then by place, and gives each what it is named by. */
function ordered(drafts: FoundPiece[]): Piece[] {
  const kinds = new Map<string, number[]>();
  drafts.forEach(({ kind }, i) => {
    const list = kinds.get(kind);
    if (list) list.push(i);
    else kinds.set(kind, [i]);
  });
  const markOf = marksAmong(drafts);
  const pieces: Piece[] = [];
  for (const kind of [...kinds.keys()].sort()) {
    const group = kinds.get(kind)!;
    const centres = new Map(group.length > 1 ? group.map((i) => [i, surfaceCentre(drafts[i]!.shape)] as const) : []);
    const order = group.length > 1 ? [...group].sort((a, b) => comparePlaces(centres.get(a)!, centres.get(b)!)) : group;
    for (const i of order) {
      // What is scrapped needs no name unless it is shown.
      const key = once(() => `${keyOf(kind)}~${writeMark(markOf(i, group, IN_NAMES))}`);
      const mark = () => writeMark(markOf(i, group, IN_DECISIONS));
      pieces.push(Object.assign(drafts[i]!, { index: pieces.length, key, mark }));
    }
  }
  return pieces;
}

/** Whether a cutter divides any of the stock, or holds some of it. */
export function reachesAny({ reached }: Division, cutter: string): boolean {
  return [...reached.values()].some((cutters) => cutters.has(cutter));
}
