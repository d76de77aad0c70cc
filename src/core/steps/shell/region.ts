import { fail } from "../../errors";
import {
  add,
  ballOf,
  boxOf,
  diagonal,
  extendSheet,
  freeShape,
  KernelFault,
  makeSphere,
  offsetSheet,
  scale,
  sheetFromFaces,
  subshapePlanes,
} from "../../kernel";
import { type Body, baseName, type Item } from "../../naming";
import { divideAll, divideEach, joinPieces, type Knife, type Piece } from "../../seam";
import type { Plane } from "../planes";
import { planeKnife } from "../seam/plane-knife";
import type { StepContext } from "../step";

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
      const knife = movedKnife(now, now.faces.indexOf(name), by, context);
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

const MOVED = "moved-wall";

/** A face of a region moved into it, as far as it takes to cut the region. */
function movedKnife(region: Body, place: number, by: number, context: StepContext): { knife: Knife; free(): void } {
  const plane = subshapePlanes(region.shape)[place];
  if (plane) {
    const item = {
      id: MOVED,
      kind: "workplane" as const,
      origin: add(plane.origin, scale(plane.normal, -by)),
      normal: plane.normal,
      hint: { text: "Wall" },
    };
    const knife = planeKnife(item, [region]);
    return { knife: { ...knife, faces: [MOVED] }, free: () => freeShape(knife.shape) };
  }
  const ball = ballOf(region.shape, place);
  if (ball) {
    // A ball is whole again when it is moved: it needs no edges to be run on from.
    const radius = ball.radius + (ball.outward ? -by : by);
    if (radius < 1e-6)
      fail("shell-tight", "A curved wall cannot be made that thick: its radius is smaller. Make it thinner.", {
        step: context.step,
      });
    const shape = makeSphere(ball.centre, radius);
    const item: Item = { id: MOVED, kind: "solid", shape, faces: [MOVED], hint: { text: "Wall" } };
    return { knife: { item, shape, faces: [MOVED] }, free: () => freeShape(shape) };
  }
  const reach = diagonal(boxOf(region.shape)!);
  const face = sheetFromFaces(region.shape, [place]);
  try {
    const offset = offsetSheet(face, -by);
    const extended = extendSheet(offset, reach);
    freeShape(offset.shape);
    const { shape } = extended;
    const item: Item = { id: MOVED, kind: "sheet", shape, faces: [MOVED], hint: { text: "Wall" } };
    return { knife: { item, shape, faces: [MOVED] }, free: () => freeShape(shape) };
  } catch (cause) {
    if (!(cause instanceof KernelFault) || cause.fatal) throw cause;
    fail("shell-tight", "A curved wall cannot be made that thick: its radius is smaller. Make it thinner.", {
      step: context.step,
    });
  } finally {
    freeShape(face.shape);
  }
}

/** The part of a region on one side of a plane. It is freed. @throws SeamError where none lies there. */
export function onSideOf(region: Body, plane: Plane, side: "front" | "back", context: StepContext): Body {
  const item = { id: `${context.step}:limit`, kind: "workplane" as const, ...plane, hint: { text: "Plane" } };
  const knife = planeKnife({ ...item, origin: plane.origin, normal: plane.normal }, [region]);
  const kept = pieceOf(
    region,
    [{ ...knife, faces: [`${context.step}:limit`] }],
    ({ sides }) => sides[item.id] === side,
  );
  freeShape(knife.shape);
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
