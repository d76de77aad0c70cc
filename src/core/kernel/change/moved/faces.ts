import { pointsOf, type Structure } from "../../binary";
import type { Elementary } from "../../binary/surfaces";
import { cross, dot, length, scale, type Vec3 } from "../../space/vectors";
import { handOf, movedSurface, offSurface } from "./surface";

/** A face of a solid as it is moved: what it lies on, before and after, and how far outwards it goes, mm. */
export interface FaceMove {
  before: Elementary;
  after: Elementary;
  by: number;
  /** Whether outwards is where `offSurface` grows, 1, or the other way, −1. */
  sense: 1 | -1;
}

/** All faces of a solid with how they move; null where one that moves, or is beside one that does, lies on a free surface, or a radius is used up. */
export function faceMoves({ faces }: Structure, amounts: readonly number[]): (FaceMove | null)[] | null {
  const moves: (FaceMove | null)[] = [];
  for (const [place, { surface, forward }] of faces.entries()) {
    const by = amounts[place]!;
    const before = surface && "axis" in surface ? surface : null;
    if (!before) {
      if (by !== 0) return null;
      moves.push(null);
      continue;
    }
    const sense = (forward ? handOf(before) : -handOf(before)) as 1 | -1;
    const after = by === 0 ? before : movedSurface(before, sense * by);
    if (!after) return null;
    moves.push({ before, after, by, sense });
  }
  return moves;
}

export const outwardsOf = ({ before, sense }: FaceMove, place: Vec3): Vec3 =>
  scale(offSurface(before, place).way, sense);

/** How faces meet in an edge: in a corner, or smoothly; or a face meets itself there, which is as smooth. */
export type Meeting = "corner" | "smooth";

/** Sine of the angle up to which faces run smoothly into one another, and from which they meet in a corner. What lies between is neither. */
const SMOOTH = 1e-6;
export const CORNER = 1e-3;

/** How the faces at an edge meet; null where it cannot be told, or one of two that are smooth stays behind. */
export function meetingAt(structure: Structure, moves: readonly (FaceMove | null)[], edge: number): Meeting | null {
  const { faces, curve } = structure.edges[edge]!;
  const [one, other] = faces.map((face) => moves[face]);
  if (!one) return null;
  if (faces.length === 1) return "smooth";
  const points = curve && pointsOf(curve.curve);
  if (!points || !other) return null;
  const angles = [0.1, 0.5, 0.9].map((share) => {
    const at = points(curve.from + share * (curve.to - curve.from)).at as unknown as Vec3;
    const [a, b] = [outwardsOf(one, at), outwardsOf(other, at)];
    return { sine: length(cross(a, b)), along: dot(a, b) };
  });
  if (angles.every(({ sine, along }) => sine < SMOOTH && along > 0)) return one.by === other.by ? "smooth" : null;
  return angles.every(({ sine }) => sine > CORNER) ? "corner" : null;
}
