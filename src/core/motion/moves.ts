import type { Placement, Vec3 } from "../kernel";

/** One move of a body: straight, or a turn about an axis (of length 1, through a point), radians, right-handed. */
export type Move = { kind: "straight"; by: Vec3 } | { kind: "turn"; at: Vec3; axis: Vec3; angle: number };

/** Where a move takes what it moves, in the end. */
export const placementOf = (move: Move): Placement =>
  move.kind === "straight"
    ? { about: [0, 0, 0], axis: [0, 0, 1], angle: 0, by: move.by }
    : { about: move.at, axis: move.axis, angle: move.angle, by: [0, 0, 0] };

/** A part of a move, from its beginning: 0 to 1. */
export const partOf = (move: Move, part: number): Move =>
  move.kind === "straight"
    ? { kind: "straight", by: [move.by[0] * part, move.by[1] * part, move.by[2] * part] }
    : { ...move, angle: move.angle * part };
