import { pointsOf, type Structure } from "../../binary";
import type { CircleCurve } from "../../binary/write";
import { cross, distance, scale, turned, type Vec3 } from "../../space/vectors";
import { angleFrom, type Ring } from "./find";
import { inSpace, type Meridian, outwardsAt } from "./meridian";

/** mm: what the library takes for one place. */
export const CONFUSION = 1e-7;
/** Radians. */
export const SAME_ANGLE = 1e-9;

/** An edge that runs round a ring's axis. */
export interface Round {
  circle: CircleCurve;
  /** How far it goes, radians. */
  long: number;
  /** How far from where the ring begins it begins, radians; and whether it goes about the axis' way, 1, or against it. */
  begins: number;
  way: 1 | -1;
  ring: Ring;
  at: Meridian;
}

/** An edge of a ring as it runs round at a place of its half plane; null where it is not there. */
export function roundOf({ edges, vertices }: Structure, ring: Ring, at: Meridian, edge: number): Round | null {
  const { axis, sweep } = ring;
  const { curve, vertices: corners } = edges[edge]!;
  const points = curve && pointsOf(curve.curve);
  if (!points) return null;
  const angleAt = (place: Vec3) => angleFrom(axis, ring.begin, outwardsAt(axis, place));
  const along = (share: number) => angleAt(points(curve.from + share * (curve.to - curve.from)).at as unknown as Vec3);
  const way = along(0.6) > along(0.4) ? 1 : -1;
  const ends = [corners[0]!, corners.at(-1)!].map((corner) => angleAt(vertices[corner]!.at));
  // Where it meets the ring's own beginning or end it is that, by which way it goes.
  const [near, far] = way === 1 ? [0, sweep] : [sweep, 0];
  const isAt = (angle: number, end: number) => Math.abs(Math.sin((angle - end) / 2)) < SAME_ANGLE;
  const begins = isAt(ends[0]!, near) ? near : ends[0]!;
  const finishes = isAt(ends[1]!, far) ? far : ends[1]!;
  const long = way * (finishes - begins);
  if (!(long > SAME_ANGLE && long < 2 * Math.PI + SAME_ANGLE)) return null;
  const x = turned(ring.begin, axis.way, begins);
  const circle: CircleCurve = {
    kind: "circle",
    at: inSpace(axis, x, [0, at[1]]),
    x,
    y: scale(cross(axis.way, x), way),
    radius: at[0],
  };
  const corner = inSpace(axis, x, at);
  if (distance(corner, vertices[corners[0]!]!.at) > CONFUSION) return null;
  return { circle, long, begins, way, ring, at };
}
