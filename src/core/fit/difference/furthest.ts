import type { Body } from "../../items/body";
import {
  compound,
  distanceToPoint,
  facesOf,
  freeShape,
  identityOf,
  pointOnFace,
  type Shape,
  type Vec3,
  verticesOf,
} from "../../kernel";

/** As many places of a body are held against the other. */
const PLACES = 240;

/** How far two bodies lie from each other at most, and between which places. */
export interface Furthest {
  /** mm: 0 where they are the same */
  distance: number;
  at: [Vec3, Vec3];
  /** At how many places of both it was measured: between them it may be more. */
  places: number;
}

/**
 * The largest distance between the skins of two bodies: from places of each to the nearest of the other, exact at each of them.
 * Null where one of them has no place.
 * @param mesh points all over the skin of each, xyz after xyz: some of them are measured at, beside corners and a place of each face
 */
export function furthest(one: Body, other: Body, mesh: [ArrayLike<number>, ArrayLike<number>]): Furthest | null {
  if (identityOf(one.shape) === identityOf(other.shape))
    return {
      distance: 0,
      at: [
        [0, 0, 0],
        [0, 0, 0],
      ],
      places: 0,
    };
  let found: Furthest | null = null;
  let places = 0;
  for (const [from, to, points, turned] of [
    [one, other, mesh[0], false],
    [other, one, mesh[1], true],
  ] as const) {
    // Of a solid, so that a place inside is not at 0 from it.
    const skin = compound(facesOf(to.shape));
    try {
      for (const at of placesOf(from.shape, points)) {
        const near = distanceToPoint(skin, at);
        if (!near) continue;
        places++;
        if (found && near.gap <= found.distance) continue;
        found = { distance: near.gap, at: turned ? [near.on2, at] : [at, near.on2], places };
      }
    } finally {
      freeShape(skin);
    }
  }
  return found && { ...found, places };
}

function placesOf(shape: Shape, points: ArrayLike<number>): Vec3[] {
  const count = points.length / 3;
  const every = Math.max(1, Math.ceil(count / PLACES));
  const spread = Array.from({ length: Math.ceil(count / every) }, (_, i): Vec3 => {
    const k = 3 * i * every;
    return [points[k]!, points[k + 1]!, points[k + 2]!];
  });
  return [...verticesOf(shape).slice(0, PLACES), ...facesOf(shape).slice(0, PLACES).map(pointOnFace), ...spread];
}
