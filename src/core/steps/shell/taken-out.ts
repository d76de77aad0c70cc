import { fail } from "../../errors";
import type { Body } from "../../items";
import { freeShape } from "../../kernel";
import { faceNamesOf } from "../../naming";
import type { StepContext } from "../evaluation";
import type { Plane } from "../shared/plane/planes";
import { lessOf, onSideOf } from "./region";

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
  if (!left) throw refuseWalls(solid, context);
  const mouths = new Set(open.map((place) => solid.faces[place]!));
  const faces = left.faces.map((name) => (mouths.has(name) ? `${context.step}:rim:${name}` : name));
  return { ...left, faces: faceNamesOf(left.shape, faces) };
}

/** @throws SeamError that walls like that leave nothing. */
export function refuseWalls({ id }: Body, context: StepContext): never {
  fail("shell-tight", `Walls like that leave nothing of ${context.nameOf(id)}, or cut it in two. Make them thinner.`, {
    step: context.step,
    bodies: [id],
  });
}
