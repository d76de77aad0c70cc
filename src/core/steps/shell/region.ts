import { fail } from "../../errors";
import type { Body, Item } from "../../items";
import {
  add,
  ballOf,
  boxOf,
  diagonal,
  extendSheet,
  freeShape,
  grownBox,
  KernelFault,
  type MadeSheet,
  makeSphere,
  movedFace,
  naturalSheet,
  offsetSheet,
  type Shape,
  scale,
  sheetFromFaces,
  subshapePlanes,
  surfaceRecordsOf,
} from "../../kernel";
import { baseName, faceNamesOf } from "../../naming";
import { divideAll, divideEach, joinPieces, type Knife, type Piece } from "../../seam";
import { SAME_PLACE } from "../../tolerance";
import type { StepContext } from "../evaluation";
import { planeKnife } from "../seam/plane-knife";
import type { Plane } from "../shared/plane/planes";

/** Of pieces of bodies that are divided, the wanted ones joined into one body; null where that is not one. */
function pieceOf(body: Body, knives: readonly Knife[], wanted: (piece: Piece) => boolean): Body | null {
  const division = divideEach([body], knives);
  try {
    const joined = joinPieces(division, division.pieces.filter(wanted));
    if (joined.length === 1) return { ...body, shape: joined[0]!.shape, faces: joined[0]!.faces };
    for (const { shape } of joined) freeShape(shape);
    return null;
  } finally {
    division.free();
  }
}

const knifeOf = (item: Body): Knife => ({ item, shape: item.shape, faces: item.faces });

/** What a body is without another; null where nothing is left, or it falls apart. */
export const lessOf = (body: Body, other: Body): Body | null =>
  pieceOf(body, [knifeOf(other)], ({ sides }) => sides[other.id] === "out");

/** Two bodies that share faces as one. */
export function withOf(body: Body, other: Body): Body | null {
  const division = divideAll([body, other]);
  try {
    const joined = joinPieces(division, division.pieces);
    if (joined.length === 1) return { ...body, shape: joined[0]!.shape, faces: joined[0]!.faces };
    for (const { shape } of joined) freeShape(shape);
    return null;
  } finally {
    division.free();
  }
}

/** A region with one of its walls moved inwards. */
export interface MovedWall {
  /** The name of the wall. */
  wall: string;
  /** How far, mm. */
  by: number;
}

/**
 * A region with walls moved inwards: it is cut by each wall's face, offset and extended, and what lies at the old wall goes.
 * It is freed. @throws SeamError where a wall cannot be moved so far.
 */
export function withWallsMoved(region: Body, moved: readonly MovedWall[], context: StepContext): Body {
  const { step } = context;
  let now = region;
  for (const { wall, by } of moved) {
    const places = now.faces.flatMap((name, place) => (baseName(name) === baseName(wall) ? [place] : []));
    for (const name of places.map((place) => now.faces[place]!)) {
      const place = now.faces.indexOf(name);
      // With another part of the wall it may be gone already.
      if (place < 0) continue;
      const knife = movedKnife(now, place, by, context);
      const next = pieceOf(now, [knife.knife], ({ faces }) => !faces.includes(name));
      knife.free();
      freeShape(now.shape);
      if (!next)
        fail("shell-tight", "A wall that thick leaves no hollow, or cuts it in two. Make it thinner.", { step });
      now = { ...next, faces: next.faces.map((face) => (baseName(face) === MOVED ? name : face)) };
    }
  }
  return now;
}

/**
 * What is left of a region when several of its walls are moved inwards at once: it is divided by all of them, and what touches
 * an old wall goes. Unlike one after the other it serves walls that meet at a hollow edge, where each alone would cut off what
 * lies before the other. @param used walls, by name, of which nothing is left when the others are moved. @param mouths the faces that are left open, by name: flat ones run on, so that a wall that begins at one
 * ends in its plane. @returns null where nothing is left, or it falls apart. @throws SeamError as `withWallsMoved`.
 */
export function withinWalls(
  region: Body,
  moved: readonly MovedWall[],
  used: readonly string[],
  mouths: readonly string[],
  context: StepContext,
): Body | null {
  const knives: { knife: Knife; wall: string; free(): void }[] = [];
  try {
    for (const { wall, by } of moved) {
      const id = `${MOVED}-${knives.length}`;
      knives.push({ ...movedKnife(region, region.faces.indexOf(wall), by, context, id), wall });
    }
    for (const mouth of mouths) {
      const place = region.faces.indexOf(mouth);
      if (subshapePlanes(region.shape)[place])
        knives.push({
          ...movedKnife(region, place, 0, context, `${MOVED}-${knives.length}`),
          wall: `${context.step}:rim:${mouth}`,
        });
    }
    const walls = new Set([...moved.map(({ wall }) => wall), ...used]);
    const room = pieceOf(
      region,
      knives.map(({ knife }) => knife),
      ({ faces }) => !faces.some((name) => walls.has(name)),
    );
    if (!room) return null;
    const wallOf = new Map(knives.map(({ knife, wall }) => [knife.item.id, wall]));
    return {
      ...room,
      faces: faceNamesOf(
        room.shape,
        room.faces.map((face) => wallOf.get(baseName(face)) ?? face),
      ),
    };
  } finally {
    for (const { free } of knives) free();
  }
}

const MOVED = "moved-wall";

/** A face of a region moved into it, as far as it takes to cut the region. */
function movedKnife(
  region: Body,
  place: number,
  by: number,
  context: StepContext,
  id = MOVED,
): { knife: Knife; free(): void } {
  const plane = subshapePlanes(region.shape)[place];
  if (plane) {
    const item = {
      id,
      kind: "workplane" as const,
      origin: add(plane.origin, scale(plane.normal, -by)),
      normal: plane.normal,
      hint: { text: "Wall" },
    };
    const own: Shape[] = [];
    const knife = planeKnife(item, [region], own);
    return { knife: { ...knife, faces: [id] }, free: () => own.forEach(freeShape) };
  }
  const ball = ballOf(region.shape, place);
  if (ball) {
    // A ball is whole again when it is moved: it needs no edges to be run on from.
    const radius = ball.radius + (ball.outward ? -by : by);
    if (radius < SAME_PLACE)
      fail("shell-tight", "A curved wall cannot be made that thick: its radius is smaller. Make it thinner.", {
        step: context.step,
      });
    const shape = makeSphere(ball.centre, radius);
    const item: Item = { id, kind: "solid", shape, faces: [id], hint: { text: "Wall" } };
    return { knife: { item, shape, faces: [id] }, free: () => freeShape(shape) };
  }
  const shape = movedAndRunOn(region, place, by);
  if (!shape)
    fail("shell-tight", "A curved wall cannot be made that thick: its radius is smaller. Make it thinner.", {
      step: context.step,
    });
  const item: Item = { id, kind: "sheet", shape, faces: [id], hint: { text: "Wall" } };
  return { knife: { item, shape, faces: [id] }, free: () => freeShape(shape) };
}

/**
 * A curved face moved inwards, so large that it cuts the body. A round one is one of another size, and a cone ends at its tip: run on past that
 * it would bound what is none of its business. A free one is all of its own surface, since the library leaves a free face that is moved
 * as large as it was; else it is run on by the library. Null where none can be had.
 */
function movedAndRunOn({ shape }: Body, place: number, by: number): Shape | null {
  const box = boxOf(shape)!;
  const reach = diagonal(box);
  const record = surfaceRecordsOf(shape)[place];
  if (record && "axis" in record) return movedFace(shape, place, -by, grownBox(box, reach));
  const ways = [
    () => {
      const whole = naturalSheet(shape, place, reach);
      return whole && takenFrom(whole, (sheet) => offsetSheet(sheet, -by));
    },
    () =>
      takenFrom(
        takenFrom(sheetFromFaces(shape, [place]), (sheet) => offsetSheet(sheet, -by)),
        (sheet) => extendSheet(sheet, reach),
      ),
  ];
  for (const way of ways)
    try {
      const made = way();
      if (made) return made.shape;
    } catch (cause) {
      if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
    }
  return null;
}

/** What is made of a sheet, which is freed. */
function takenFrom(sheet: MadeSheet, make: (sheet: MadeSheet) => MadeSheet): MadeSheet {
  try {
    return make(sheet);
  } finally {
    freeShape(sheet.shape);
  }
}

/** The part of a region on one side of a plane. It is freed. @throws SeamError where none lies there. */
export function onSideOf(region: Body, plane: Plane, side: "front" | "back", context: StepContext): Body {
  const item = { id: `${context.step}:limit`, kind: "workplane" as const, ...plane, hint: { text: "Plane" } };
  const own: Shape[] = [];
  const knife = planeKnife({ ...item, origin: plane.origin, normal: plane.normal }, [region], own);
  const kept = pieceOf(
    region,
    [{ ...knife, faces: [`${context.step}:limit`] }],
    ({ sides }) => sides[item.id] === side,
  );
  own.forEach(freeShape);
  freeShape(region.shape);
  if (!kept)
    fail(
      "side-empty",
      "On that side of the plane there is nothing to hollow, or it falls apart. Take the other side, or move the plane.",
      {
        step: context.step,
      },
    );
  return kept;
}
