import type { Manifold } from "manifold-3d";
import { type Box, boxesMeet, centre, corners, diagonal, dot, sub, unionBox, type Vec3 } from "../kernel/space/vectors";
import type { Side } from "../seam/piece";
import { trianglesLibrary } from "./library";
import { drawnMesh, type RoughMesh } from "./mesh";
import { screenOf } from "./screen";
import { forgetSolids, merged, type Skin, solidOf, solidOfMesh, turnedRound } from "./skin";

/** Something that divides, by the id of the item that it is of. */
export type RoughKnife =
  | { id: string; kind: "solid"; skin: Skin }
  /** A closed sheet: what it holds lies behind it. */
  | { id: string; kind: "closed-sheet"; skin: Skin }
  | { id: string; kind: "plane"; origin: Vec3; normal: Vec3 }
  /** Its triangles look to its front. */
  | { id: string; kind: "sheet"; skin: Skin };

export interface RoughStock {
  id: string;
  skin: Skin;
}

/** A piece of triangles: of which stock, on which sides of all that divides, and what it looks like. */
export interface RoughPiece {
  stock: string[];
  sides: Record<string, Side>;
  /** The middle of its box. */
  at: Vec3;
  mesh: RoughMesh;
}

interface Part {
  solid: Manifold;
  stock: string[];
  sides: Record<string, Side>;
}

/** Solids to be let go of. */
class Owned {
  private readonly all: Manifold[] = [];

  take<T extends Manifold | readonly Manifold[]>(made: T): T {
    this.all.push(...((Array.isArray(made) ? made : [made]) as Manifold[]));
    return made;
  }

  free(): void {
    for (const solid of this.all) solid.delete();
  }
}

/**
 * What solids of triangles are divided into by knives. A picture: as near as the triangles are, and parts that are thinner than
 * `least` mm are left out, since so thin are what two skins of one surface leave between them.
 * @param shared whether the solids divide each other, too; else each is divided by itself.
 * @returns null where it cannot be had so: a skin that is not closed, a sheet that folds back or ends within the stock.
 */
export function divideRoughly(
  stock: readonly RoughStock[],
  knives: readonly RoughKnife[],
  least: number,
  shared = false,
): RoughPiece[] | null {
  const owned = new Owned();
  try {
    let parts = shared ? cellsOf(stock, owned) : wholesOf(stock);
    const closed = knives.filter((knife) => isClosed(knife));
    for (const lot of apartFromEachOther(closed)) parts = parts && dividedBySolids(parts, lot, owned);
    for (const knife of knives) if (!isClosed(knife)) parts = parts && dividedByOpen(parts, knife, owned);
    return parts && drawn(parts, least, owned);
  } finally {
    owned.free();
    forgetSolids();
  }
}

/** Each stock as it is; null where one is not closed. */
function wholesOf(stock: readonly RoughStock[]): Part[] | null {
  const parts: Part[] = [];
  for (const { id, skin } of stock) {
    const solid = solidOf(skin);
    if (!solid) return null;
    parts.push({ solid, stock: [id], sides: {} });
  }
  return parts;
}

/** What solids divide each other into: each cell by all that it lies in. */
function cellsOf(stock: readonly RoughStock[], owned: Owned): Part[] | null {
  let cells: Part[] = [];
  for (const { id, skin } of stock) {
    const solid = solidOf(skin);
    if (!solid) return null;
    const rest = cells.reduce((left, cell) => owned.take(left.subtract(cell.solid)), solid);
    const sides: Record<string, Side> = { [id]: "in" };
    for (const { stock: before } of cells) for (const other of before) sides[other] = "out";
    const divided = dividedBySolids(cells, [{ id, kind: "solid", skin }], owned);
    if (!divided) return null;
    cells = divided.map((cell) => (cell.sides[id] === "in" ? { ...cell, stock: [...cell.stock, id] } : cell));
    if (!rest.isEmpty()) cells.push({ solid: rest, stock: [id], sides });
  }
  return cells;
}

type ClosedKnife = Extract<RoughKnife, { kind: "solid" | "closed-sheet" }>;

const isClosed = (knife: RoughKnife): knife is ClosedKnife => knife.kind === "solid" || knife.kind === "closed-sheet";

/** How the sides of a closed knife are called: within it and without. */
const SIDES = { solid: ["in", "out"], "closed-sheet": ["back", "front"] } as const;

/** Lots of knives of which none meets another of its lot: those divide at once. */
function apartFromEachOther(knives: readonly ClosedKnife[]): ClosedKnife[][] {
  const lots: ClosedKnife[][] = [];
  for (const knife of knives) {
    const box = boxOf(knife.skin);
    const lot = lots.find((others) => others.every((other) => !boxesMeet(box, boxOf(other.skin), 0)));
    if (lot) lot.push(knife);
    else lots.push([knife]);
  }
  return lots;
}

/** Parts divided by a lot of closed knives; null where one of them is not closed. */
function dividedBySolids(parts: readonly Part[], lot: readonly ClosedKnife[], owned: Owned): Part[] | null {
  const solids: { id: string; kind: ClosedKnife["kind"]; solid: Manifold; box: Box }[] = [];
  for (const { id, kind, skin } of lot) {
    const solid = solidOf(skin);
    if (!solid) return null;
    solids.push({ id, kind, solid, box: solid.boundingBox() });
  }
  return parts.flatMap(({ solid, stock, sides }): Part[] => {
    // A body that is stock and cutter does not cut itself.
    const others = solids.filter(({ id }) => !stock.includes(id));
    const outside = { ...sides, ...Object.fromEntries(others.map(({ id, kind }) => [id, SIDES[kind][1]])) };
    const box = solid.boundingBox();
    if (!others.some((other) => boxesMeet(other.box, box, 0))) return [{ solid, stock, sides: outside }];
    const [only, second] = others;
    const all = second ? owned.take(trianglesLibrary().Manifold.compose(others.map((one) => one.solid))) : only!.solid;
    const [inner, rest] = owned.take(solid.split(all));
    const lumps = second ? lumpsOf(inner!, owned) : [inner!];
    const within = lumps.flatMap((lump): Part[] => {
      if (lump.isEmpty()) return [];
      const at = lump.boundingBox();
      const { id, kind } = others.find((other) => boxesMeet(other.box, at, 0)) ?? only!;
      return [{ solid: lump, stock, sides: { ...outside, [id]: SIDES[kind][0] } }];
    });
    return rest!.isEmpty() ? within : [...within, { solid: rest!, stock, sides: outside }];
  });
}

/** Parts divided by what has two sides; null where it ends within one of them, or folds back. */
function dividedByOpen(parts: readonly Part[], knife: Exclude<RoughKnife, ClosedKnife>, owned: Owned): Part[] | null {
  const made: Part[] = [];
  const screen = knife.kind === "sheet" ? screenOf(knife.skin, reachOver(parts, knife.skin)) : null;
  if (knife.kind === "sheet" && !screen) return null;
  if (screen) owned.take(screen.solid);
  for (const { solid, stock, sides } of parts) {
    const whole = knife.kind === "plane" ? sideOf(knife, solid.boundingBox()) : null;
    if (whole) {
      made.push({ solid, stock, sides: { ...sides, [knife.id]: whole } });
      continue;
    }
    const both = owned.take(
      knife.kind === "plane"
        ? solid.splitByPlane([...knife.normal], dot(knife.origin, knife.normal))
        : solid.split(screen!.solid),
    );
    if (screen && both.some((side) => screen.endsWithin(side))) return null;
    const names = screen?.side === "back" ? (["back", "front"] as const) : (["front", "back"] as const);
    both.forEach((side, i) => {
      if (!side.isEmpty()) made.push({ solid: side, stock, sides: { ...sides, [knife.id]: names[i]! } });
    });
  }
  return made;
}

/** The side of a plane that a box lies on; null where it lies on both. */
function sideOf({ origin, normal }: Extract<RoughKnife, { kind: "plane" }>, box: Box): Side | null {
  const heights = corners(box).map((corner) => dot(sub(corner, origin), normal));
  if (Math.min(...heights) >= 0) return "front";
  return Math.max(...heights) <= 0 ? "back" : null;
}

const holds = (outer: Box, inner: Box): boolean =>
  outer.min.every((value, k) => value <= inner.min[k]! && inner.max[k]! <= outer.max[k]!);

function boxOf({ positions }: Skin): Box {
  const min: [number, number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  const max: [number, number, number] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  positions.forEach((value, i) => {
    min[i % 3] = Math.min(min[i % 3]!, value);
    max[i % 3] = Math.max(max[i % 3]!, value);
  });
  return { min, max };
}

/** mm: farther than from any place of the skin to any of the parts. */
const reachOver = (parts: readonly Part[], skin: Skin): number =>
  1 + 2 * diagonal(parts.map(({ solid }): Box => solid.boundingBox()).reduce(unionBox, boxOf(skin)));

/** What of a solid does not hang together, each by itself, with the hollows in it: those are skins of their own, turned inwards. */
function lumpsOf(solid: Manifold, owned: Owned): Manifold[] {
  const skins = owned
    .take(solid.decompose())
    .map((skin) => ({ skin, volume: skin.volume(), box: skin.boundingBox() }))
    .sort((a, b) => a.volume - b.volume);
  const hollows = skins.filter(({ volume }) => volume < 0);
  const outsides = skins.filter(({ volume }) => volume >= 0).map((one) => ({ ...one, hollows: [] as Manifold[] }));
  if (hollows.length === 0) return outsides.map(({ skin }) => skin);
  if (outsides.length === 1) return [solid];
  // The least that a hollow lies in; by boxes, which is near enough for a picture.
  for (const { skin, box } of hollows) outsides.find((outside) => holds(outside.box, box))?.hollows.push(skin);
  return outsides.map(({ skin, hollows: own }) =>
    own.reduce((left, hollow) => {
      const { vertProperties: positions, triVerts: indices } = hollow.getMesh();
      const filled = solidOfMesh(merged({ positions, indices: turnedRound(indices) }));
      return filled ? owned.take(left.subtract(owned.take(filled))) : left;
    }, skin),
  );
}

/** Each lump of the parts by itself, as it is drawn. */
function drawn(parts: readonly Part[], least: number, owned: Owned): RoughPiece[] {
  return parts.flatMap(({ solid, stock, sides }) =>
    lumpsOf(solid, owned).flatMap((lump): RoughPiece[] => {
      // As a plate is: half of its skin lies on each side.
      if (2 * lump.volume() < least * lump.surfaceArea()) return [];
      return [{ stock, sides, at: centre(lump.boundingBox()), mesh: drawnMesh(lump) }];
    }),
  );
}
