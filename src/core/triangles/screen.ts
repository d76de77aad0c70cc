import earcut from "earcut";
import type { Manifold } from "manifold-3d";
import { add, cross, dot, length, scale, squareTo, sub, unit, type Vec3 } from "../kernel/space/vectors";
import { trianglesLibrary } from "./library";
import { merged, rimOf, type Skin, solidOfMesh, turnedRound } from "./skin";

/** The room before an open skin, or within one that runs round, as a solid. */
export interface Screen {
  solid: Manifold;
  /** Which side of the skin that room is on. */
  side: "front" | "back";
  /** Whether what was divided by it shows other triangles of it than the skin's own: the skin ends within that. */
  endsWithin(piece: Manifold): boolean;
}

/** How far the way that a screen is drawn out may lean from each triangle, as a cosine. */
const LEAN = 0.05;

/**
 * An open skin drawn out by `reach` mm to its front, or, where it runs round, closed at its ends. Null where it does neither: where it folds back
 * as seen along the one way that it is drawn out, and is open on the way round.
 * @param skin its triangles look to its front.
 */
export function screenOf(skin: Skin, reach: number): Screen | null {
  const corners = sharedCorners(skin);
  const way = wayOut(skin, corners);
  return (way && drawnOut(skin, corners, scale(way, reach))) ?? closedAtEnds(skin, corners);
}

/** The way that all of a skin looks more or less; null where there is none. */
function wayOut({ positions }: Skin, corners: Uint32Array): Vec3 | null {
  const at = (vertex: number): Vec3 => [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
  const normals: Vec3[] = [];
  let sum: Vec3 = [0, 0, 0];
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [at(corners[t]!), at(corners[t + 1]!), at(corners[t + 2]!)];
    const normal = cross(sub(b, a), sub(c, a));
    normals.push(normal);
    sum = add(sum, normal);
  }
  if (length(sum) === 0) return null;
  const way = unit(sum);
  return normals.every((normal) => dot(normal, way) >= LEAN * length(normal)) ? way : null;
}

/** The skin, its image before it, and walls between their rims. */
function drawnOut({ positions }: Skin, corners: Uint32Array, by: Vec3): Screen | null {
  const count = positions.length / 3;
  const both = new Float32Array(2 * positions.length);
  both.set(positions);
  positions.forEach((value, i) => {
    both[positions.length + i] = value + by[i % 3]!;
  });
  // The skin looks into the room before it: as its bound it is turned round, and its image closes it.
  const near = turnedRound(corners);
  const far = corners.map((vertex) => vertex + count);
  const walls = rimOf(near, count).flatMap(([from, to]) => [to, from, from + count, to, from + count, to + count]);
  return screen(both, near, [...far, ...walls], "front");
}

/** The skin with each of its rims, which are flat, closed by triangles. What divides lies beyond the stock there, or is found to end within it. */
function closedAtEnds({ positions }: Skin, corners: Uint32Array): Screen | null {
  const next = new Map(rimOf(corners, positions.length / 3));
  const ends: number[] = [];
  while (next.size > 0) {
    const [first] = next.keys();
    const loop = [first!];
    for (let at = next.get(first!); at !== first; at = next.get(at)) {
      if (at === undefined || loop.length > next.size) return null;
      loop.push(at);
    }
    for (const vertex of loop) next.delete(vertex);
    const end = closedLoop(loop, positions);
    if (!end) return null;
    ends.push(...end);
  }
  return (
    screen(positions, corners, ends, "back") ?? screen(positions, turnedRound(corners), turnedRound(ends), "front")
  );
}

/** Triangles within a flat loop that run against it along its edges; null where it is not flat, to a thousandth of how far it reaches. */
function closedLoop(loop: readonly number[], positions: Float32Array): number[] | null {
  const at = (vertex: number): Vec3 => [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
  const origin = at(loop[0]!);
  const from = loop.map((vertex) => sub(at(vertex), origin));
  // Newell's normal: the areas that the loop is seen with.
  const normal = from.reduce<Vec3>((sum, place, i) => add(sum, cross(place, from[(i + 1) % from.length]!)), [0, 0, 0]);
  if (length(normal) === 0) return null;
  const way = unit(normal);
  const reach = Math.max(...from.map(length));
  if (from.some((place) => Math.abs(dot(place, way)) > 1e-3 * reach)) return null;
  const along = squareTo(way);
  const across = cross(way, along);
  const flat = from.map((place): [number, number] => [dot(place, along), dot(place, across)]);
  const made = earcut(flat.flat());
  const turn = (i: number) => {
    const [a, b, c] = [flat[made[i]!]!, flat[made[i + 1]!]!, flat[made[i + 2]!]!];
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  };
  let sum = 0;
  for (let i = 0; i < made.length; i += 3) sum += turn(i);
  // As seen against the normal, the loop runs round to the left.
  return Array.from(sum > 0 ? turnedRound(made) : made, (place) => loop[place]!);
}

/** @param own the skin's triangles. @param others what closes them. */
function screen(
  positions: Float32Array,
  own: Uint32Array,
  others: Iterable<number>,
  side: Screen["side"],
): Screen | null {
  const triangles = Uint32Array.from([...own, ...others]);
  const { Manifold, Mesh } = trianglesLibrary();
  const id = Manifold.reserveIDs(1);
  const mesh = new Mesh({
    numProp: 3,
    vertProperties: positions,
    triVerts: triangles,
    runIndex: Uint32Array.from([0, triangles.length]),
    runOriginalID: Uint32Array.from([id]),
    // Triangles of one number could be joined.
    faceID: Uint32Array.from({ length: triangles.length / 3 }, (_, t) => t),
  });
  const solid = solidOfMesh(mesh);
  if (!solid) return null;
  return {
    solid,
    side,
    endsWithin(piece) {
      const { runIndex, runOriginalID, faceID } = piece.getMesh();
      return [...runOriginalID].some((original, run) => {
        if (original !== id) return false;
        for (let t = runIndex[run]! / 3; t < runIndex[run + 1]! / 3; t++) if (faceID[t]! >= own.length / 3) return true;
        return false;
      });
    },
  };
}

/** The corners of a skin's triangles, those at one place by one vertex. */
function sharedCorners(skin: Skin): Uint32Array {
  const { triVerts, mergeFromVert, mergeToVert } = merged(skin);
  const one = new Map<number, number>();
  mergeFromVert?.forEach((vertex, i) => {
    one.set(vertex, mergeToVert![i]!);
  });
  const last = (vertex: number): number => {
    let at = vertex;
    for (let next = one.get(at); next !== undefined && next !== at; next = one.get(at)) at = next;
    return at;
  };
  return triVerts.map(last);
}
