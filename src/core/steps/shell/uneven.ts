import type { Body } from "../../items";
import { freeShape } from "../../kernel";
import { SAME_PLACE } from "../../tolerance";
import type { StepContext } from "../evaluation";
import { evenWalls } from "./even";
import { lessOf, type MovedWall, withOf, withWallsMoved } from "./region";
import { refuseWalls, takenOut, type Walls } from "./taken-out";

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
  if (!region) throw refuseWalls(solid, context);
  const moved = closed.flatMap((place): MovedWall[] => {
    const by = Math.abs(thicknessOf(place) - base);
    return by < SAME_PLACE ? [] : [{ wall: `${step}:wall:${solid.faces[place]}`, by }];
  });
  return takenOut(solid, open, withWallsMoved({ ...region, id: `${step}:room` }, moved, context), walls, context);
}
