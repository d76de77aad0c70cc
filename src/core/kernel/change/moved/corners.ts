import { pointsOf, type Structure } from "../../binary";
import { add, cross, dot, length, scale, sub, unit, type Vec3 } from "../../space/vectors";
import { type FaceMove, type Meeting, outwardsOf } from "./faces";
import { offSurface } from "./surface";

/** What a corner has to be on: how far a place is off it, and the way in which that grows. */
type Bound = (place: Vec3) => { off: number; way: Vec3 };

/** mm: how nearly a corner lies on all that meets in it. */
const ON = 1e-9;
/** Ways that lie in the plane of others to this tell nothing of their own. */
const APART = 1e-5;
const ROUNDS = 40;

/**
 * Where a corner goes when its faces move: where they meet, and where edges in which they run smoothly on go, each along its own normals. By
 * Newton's method, the shortest way each time. Null where they do not meet in a place, or not all of them.
 * @param meetings of the edges, by place.
 */
export function movedCorner(
  structure: Structure,
  moves: readonly (FaceMove | null)[],
  meetings: readonly (Meeting | null)[],
  corner: number,
): Vec3 | null {
  const { faces, at } = structure.vertices[corner]!;
  const bounds: Bound[] = [];
  for (const face of faces) {
    const move = moves[face];
    if (!move) return null;
    bounds.push((place) => offSurface(move.after, place));
  }
  structure.edges.forEach((edge, place) => {
    if (edge.point || meetings[place] !== "smooth" || !edge.vertices.includes(corner)) return;
    const wall = wallAlong(structure, moves, place);
    if (wall) bounds.push(wall);
  });
  let place = at;
  for (let round = 0; round < ROUNDS; round++) {
    const step = shortestOnto(bounds.map((bound) => bound(place)));
    place = add(place, step);
    if (length(step) < ON / 100) break;
  }
  return bounds.every((bound) => Math.abs(bound(place).off) < ON) ? place : null;
}

/** The shortest step onto all bounds, as if they were flat: what one says that others said already is left out. */
function shortestOnto(bounds: readonly { off: number; way: Vec3 }[]): Vec3 {
  const ways: Vec3[] = [];
  let step: Vec3 = [0, 0, 0];
  for (const { off, way } of bounds) {
    let own = way;
    for (const other of ways) own = sub(own, scale(other, dot(own, other)));
    const size = length(own);
    if (size < APART) continue;
    const fresh = scale(own, 1 / size);
    ways.push(fresh);
    // What the step does already for this one goes out.
    step = add(step, scale(fresh, (-off - dot(step, way)) / size));
  }
  return step;
}

/**
 * What stands on an edge along the normals of its face: there the edge goes when the faces that run smoothly into one another in it
 * move as one. Null where the edge is neither straight nor round.
 */
function wallAlong({ edges }: Structure, moves: readonly (FaceMove | null)[], edge: number): Bound | null {
  const { curve, faces } = edges[edge]!;
  const move = moves[faces[0]!];
  if (!curve || !move) return null;
  const { curve: drawn } = curve;
  const points = pointsOf(drawn);
  if (!points || (drawn.kind !== "line" && drawn.kind !== "circle")) return null;
  const foot = (place: Vec3): { at: Vec3; along: Vec3 } => {
    if (drawn.kind === "line") {
      const [from, way] = [drawn.at as unknown as Vec3, unit(drawn.way as unknown as Vec3)];
      return { at: add(from, scale(way, dot(sub(place, from), way))), along: way };
    }
    const [middle, x, y] = [drawn.at, drawn.x, drawn.y] as unknown as [Vec3, Vec3, Vec3];
    const out = sub(place, middle);
    const { at, slope } = points(Math.atan2(dot(out, y), dot(out, x)));
    return { at: at as unknown as Vec3, along: unit(slope as unknown as Vec3) };
  };
  return (place) => {
    const { at, along } = foot(place);
    const way = unit(cross(along, outwardsOf(move, at)));
    return { off: dot(sub(place, at), way), way };
  };
}
