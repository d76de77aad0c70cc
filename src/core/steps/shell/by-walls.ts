import { SeamError } from "../../errors";
import type { Body } from "../../items";
import {
  add,
  contains,
  distanceToPoint,
  facesOf,
  freeFacesOf,
  freeShape,
  isUsedUpBy,
  isWalls,
  KernelFault,
  leastGap,
  normalNear,
  ownHandle,
  pointOnFace,
  scale,
  sheetFromFaces,
  surfacesOf,
  triangulate,
  type Vec3,
} from "../../kernel";
import { baseName } from "../../naming";
import { tellStage } from "../../stage";
import { UNMADE } from "../../tolerance";
import type { StepContext } from "../evaluation";
import { type MovedWall, withinWalls, withWallsMoved } from "./region";
import { takenOut } from "./taken-out";

/** How far a wall's other side may be off its thickness, mm. */
const OFF = 1e-5;

/**
 * A body hollowed wall by wall: what is left of it when each of its closed faces is moved inwards, along its own surface, is the
 * room that is taken out. It serves bodies that the library's own offset gives up on: parts of balls whose poles lie on an edge,
 * parts of turned bodies that reach their axis; bodies with roundings that are smaller than the wall, which have no other side: behind them the
 * other walls meet; so it is with chamfers. Every other wall has to have its other side, and none lies nearer to the skin than a wall.
 * @returns null where it cannot be had so.
 */
export function wallsByFaces(
  solid: Body,
  open: readonly number[],
  thickness: number,
  context: StepContext,
): Pick<Body, "shape" | "faces"> | null {
  const { step } = context;
  const closed = solid.faces.flatMap((_, place) => (open.includes(place) ? [] : [place]));
  const sided = closed.filter((place) => !isUsedUpBy(solid.shape, place, thickness));
  const isFree = freeFacesOf(solid.shape).some((place) => sided.includes(place));
  if (sided.length > (isFree ? MANY_FREE : MANY) || sided.length === 0) return null;
  // Beside roundings that are used up free walls are looked for in vain, for a minute and more.
  if (isFree && sided.length < closed.length) return null;
  const moved = sided.map((place): MovedWall => ({ wall: solid.faces[place]!, by: thickness }));
  const used = closed.filter((place) => !sided.includes(place)).map((place) => solid.faces[place]!);
  const mouths = open.map((place) => solid.faces[place]!);
  const whole = { ...solid, id: `${step}:room` };
  const atOnce = () => withinWalls(whole, moved, used, mouths, context);
  // One after the other, each wall frees what it is given, and goes with all that it touches: not where some have no other side.
  const inTurn = () => withWallsMoved({ ...whole, shape: ownHandle(solid.shape) }, moved, context);
  const ways = used.length > 0 ? [atOnce] : [inTurn, atOnce];
  for (const way of ways) {
    tellStage("hollowing wall by wall");
    const made = hollowed(way, solid, { open, closed, sided }, thickness, context);
    if (made) return made;
  }
  return null;
}

/** Whether walls so thick use up the radius of a face, so that it bounds no room behind them. @param open by place. */
export const usesUp = (body: Body, open: readonly number[], thickness: number): boolean =>
  body.faces.some((_, place) => !open.includes(place) && isUsedUpBy(body.shape, place, thickness));

/**
 * Whether it is found quickly whether walls are had so: with one curved wall at the most beside those that are used up. Trials of others may take seconds each.
 */
export function isQuick(body: Body, open: readonly number[], thickness: number): boolean {
  const surfaces = surfacesOf(body.shape);
  const curved = body.faces.filter(
    (_, place) =>
      !open.includes(place) && !isUsedUpBy(body.shape, place, thickness) && surfaces[place]!.kind !== "plane",
  );
  return curved.length <= 1;
}

/** The faces of a solid by place: left open, closed, and of these those whose walls have another side. */
interface Sides {
  open: readonly number[];
  closed: readonly number[];
  sided: readonly number[];
}

/** With more walls than these it takes long, and the library's own way is good at bodies that have many. */
const MANY = 16;
/** With more of which one is free each division takes seconds, and there are many of them: rounded crossings of pipes took minutes, in vain. */
const MANY_FREE = 7;

/** The body hollowed by a room that is found in one way; null where it is not found, or too near to the skin. */
function hollowed(
  way: () => Body | null,
  solid: Body,
  sides: Sides,
  thickness: number,
  context: StepContext,
): Pick<Body, "shape" | "faces"> | null {
  const { step } = context;
  const { open, closed } = sides;
  try {
    const room = way();
    if (!room) return null;
    if (!isWallAway(room, solid, sides, thickness)) {
      freeShape(room.shape);
      return null;
    }
    const walls = { first: thickness, own: [], outward: false, limit: null, part: "all" as const };
    const named = {
      ...room,
      faces: room.faces.map((name) => (isWall(name, solid, closed) ? `${step}:wall:${name}` : name)),
    };
    const made = takenOut(solid, open, named, walls, context);
    if (isWalls(solid.shape, made.shape, open, thickness)) return made;
    freeShape(made.shape);
    return null;
  } catch (cause) {
    if (cause instanceof SeamError || (cause instanceof KernelFault && !cause.fatal)) return null;
    throw cause;
  }
}

const isWall = (name: string, solid: Body, closed: readonly number[]) =>
  closed.some((place) => baseName(solid.faces[place]!) === baseName(name));

/** mm behind a mouth, where it is looked for the room. */
const BEHIND = 1e-3;

/** Whether a room reaches a mouth: where that was run on, its part of the room goes by the name of the rim. */
function isOpened(room: Body, { shape }: Body, place: number): boolean {
  const face = facesOf(shape)[place]!;
  const { positions, indices } = triangulate(face, [], { linear: 0.1, angular: 0.3 });
  const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!];
  const step = 3 * Math.max(1, Math.floor(indices.length / 3 / PLACES));
  for (let t = 0; t < indices.length; t += step) {
    const [a, b, c] = [corner(indices[t]!), corner(indices[t + 1]!), corner(indices[t + 2]!)];
    const at = scale(add(add(a, b), c), 1 / 3);
    if (contains(room.shape, add(at, scale(normalNear(face, at), -BEHIND)))) return true;
  }
  return false;
}

/** What a chamfer lies on. */
const CHAMFERS: ReadonlySet<string> = new Set(["plane", "cone"]);

/** How many places of a wall are looked at. */
const PLACES = 60;

/**
 * Whether each wall's other side is there, and lies nowhere nearer to the closed faces than the wall is thick. Where a wall ends
 * at a mouth, what lies before the mouth may be as near as that is.
 */
function isWallAway(room: Body, solid: Body, { open, closed, sided }: Sides, thickness: number): boolean {
  const there = new Set(room.faces.map(baseName));
  const isThere = (place: number) => there.has(baseName(solid.faces[place]!));
  // A chamfer may be used up as a rounding is: behind it the walls beside it meet, and there is as much before it as before them.
  const surfaces = surfacesOf(solid.shape);
  const missing = sided.filter((place) => !isThere(place));
  if (!missing.every((place) => CHAMFERS.has(surfaces[place]!.kind))) return false;
  // A mouth that no room reaches would not be open.
  if (!open.every((place) => isThere(place) || isOpened(room, solid, place))) return false;
  const skin = sheetFromFaces(solid.shape, closed);
  const mouths = open.length > 0 ? sheetFromFaces(solid.shape, open) : null;
  try {
    return facesOf(room.shape).every((face, i) => {
      if (!isWall(room.faces[i]!, solid, closed)) return true;
      const gapAt = (at: Vec3) => distanceToPoint(skin.shape, at)?.gap ?? 0;
      if (Math.abs(gapAt(pointOnFace(face)) - thickness) > OFF) return false;
      const near = (at: Vec3) => {
        if (leastGap(solid.shape, closed, at) >= thickness - UNMADE) return false;
        const gap = gapAt(at);
        // Single precision, as meshes are: a thousandth is room for that.
        if (gap >= thickness - UNMADE) return false;
        return !mouths || (distanceToPoint(mouths.shape, at)?.gap ?? 0) > gap + UNMADE;
      };
      const { positions } = triangulate(face, [], { linear: 0.5, angular: 0.3 });
      // What comes too near to a face without another side does so in a corner first: then none is passed over.
      const step = missing.length > 0 ? 3 : 3 * Math.max(1, Math.floor(positions.length / 3 / PLACES));
      for (let p = 0; p < positions.length; p += step)
        if (near([positions[p]!, positions[p + 1]!, positions[p + 2]!])) return false;
      return true;
    });
  } finally {
    freeShape(skin.shape);
    if (mouths) freeShape(mouths.shape);
  }
}
