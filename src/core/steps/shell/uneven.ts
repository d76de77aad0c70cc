import { fail } from "../../errors";
import { freeShape } from "../../kernel";
import { type Body, faceNamesOf } from "../../naming";
import type { Plane } from "../planes";
import type { StepContext } from "../step";
import { evenWalls } from "./even";
import { lessOf, type MovedWall, onSideOf, withOf, withWallsMoved } from "./region";

/** What the walls of a hollow are to be. */
export interface Walls {
  /** Of faces without one of their own, mm. */
  first: number;
  own: readonly { places: readonly number[]; thickness: number }[];
  outward: boolean;
  /** The plane on one side of which it is hollowed. */
  limit: Plane | null;
  part: "all" | "front" | "back";
}

/**
 * A solid with walls of several thicknesses, or hollowed on one side of a plane only. The library makes walls of one
 * thickness: the thinnest (outwards the thickest) that is asked for; the room that they leave is then cut by the offset
 * faces of the walls that are to be other. @throws SeamError
 */
export function unevenWalls(solid: Body, open: readonly number[], walls: Walls, context: StepContext): Body {
  const { step } = context;
  const { first, own, outward } = walls;
  const thicknessOf = (place: number) => own.find(({ places }) => places.includes(place))?.thickness ?? first;
  const closed = solid.faces.flatMap((_, place) => (open.includes(place) ? [] : [place]));
  const all = closed.map(thicknessOf);
  const base = outward ? Math.max(...all) : Math.min(...all);
  const skin: Body = { ...solid, id: `${step}:walls`, ...evenWalls(solid, open, base, outward, context) };
  const region = outward ? withOf(solid, skin) : lessOf(solid, skin);
  freeShape(skin.shape);
  if (!region) throw refuse(solid, context);
  const moved = closed.flatMap((place): MovedWall[] => {
    const by = Math.abs(thicknessOf(place) - base);
    return by < 1e-9 ? [] : [{ wall: `${step}:wall:${solid.faces[place]}`, by }];
  });
  return takenOut(solid, open, withWallsMoved({ ...region, id: `${step}:room` }, moved, context), walls, context);
}

/**
 * What is left of a solid when the room of a hollow is taken out; outwards, of the room when the solid is. The room is freed.
 * @throws SeamError where that is nothing, or falls apart.
 */
export function takenOut(
  solid: Body,
  open: readonly number[],
  room: Body,
  { outward, limit, part }: Walls,
  context: StepContext,
): Body {
  const within = limit && part !== "all" ? onSideOf(room, limit, part, context) : room;
  const left = outward ? lessOf(within, solid) : lessOf(solid, within);
  freeShape(within.shape);
  if (!left) throw refuse(solid, context);
  const mouths = new Set(open.map((place) => solid.faces[place]!));
  const faces = left.faces.map((name) => (mouths.has(name) ? `${context.step}:rim:${name}` : name));
  return { ...left, faces: faceNamesOf(left.shape, faces) };
}

function refuse({ id }: Body, context: StepContext): never {
  fail("shell-tight", `Walls like that leave nothing of ${context.nameOf(id)}, or cut it in two. Make them thinner.`, {
    step: context.step,
    bodies: [id],
  });
}
