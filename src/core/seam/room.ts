import { type Box, cross, diagonal, dot, grownBox, scale, unionBox, type Vec3 } from "../kernel";
import { ALONG } from "../tolerance";

/** An endless plane: its two sides are what else there is of space. */
export interface Endless {
  origin: Vec3;
  normal: Vec3;
}

/** mm: a corner of three planes that is farther from where they are is none that anything could be made in. */
const FARTHEST = 1e5;
/** Of its size, and mm: by how much a room is larger than all that may be enclosed in it. */
const MARGIN = 0.1;
const LEAST = 10;

/** Planes of which every three are looked at. */
export const MOST_PLANES = 150;

/**
 * A box in which everything lies that bodies and endless planes can enclose: what they enclose has its corners on the bodies, or where
 * three planes meet. What goes on for ever as a curve is drawn – a drawing square to its plane, a round face along its axis – is
 * given by planes that hold it between them.
 * @param boxes of what ends. @returns null where nothing is given, or nothing but planes that do not meet in points.
 */
export function roomFor(boxes: readonly Box[], planes: readonly Endless[]): Box | null {
  let room: Box | null = boxes.length > 0 ? boxes.reduce(unionBox) : null;
  const about = room ?? (planes.length > 0 ? planes.map(({ origin }) => pointBox(origin)).reduce(unionBox) : null);
  if (!about) return null;
  const corners: Vec3[] = [];
  const count = planes.length;
  for (let i = 0; i < count; i++)
    for (let j = i + 1; j < count; j++) {
      const way = cross(planes[i]!.normal, planes[j]!.normal);
      if (dot(way, way) < ALONG * ALONG) continue;
      for (let k = j + 1; k < count; k++) {
        const at = meetingOf(planes[i]!, planes[j]!, planes[k]!);
        if (at && isNear(at, about)) corners.push(at);
      }
    }
  for (const at of corners) room = room ? unionBox(room, pointBox(at)) : pointBox(at);
  if (!room) return null;
  const by = Math.max(LEAST, MARGIN * diagonal(room));
  return grownBox(room, by);
}

const pointBox = (at: Vec3): Box => ({ min: at, max: at });

const isNear = (at: Vec3, { min, max }: Box): boolean =>
  at.every((value, i) => value > min[i]! - FARTHEST && value < max[i]! + FARTHEST);

/** Where three planes meet in a point (Cramer's rule); null where two run along each other, or all along one line. */
function meetingOf(a: Endless, b: Endless, c: Endless): Vec3 | null {
  const [bc, ca, ab] = [cross(b.normal, c.normal), cross(c.normal, a.normal), cross(a.normal, b.normal)];
  const whole = dot(a.normal, bc);
  if (Math.abs(whole) < ALONG) return null;
  const [da, db, dc] = [dot(a.normal, a.origin), dot(b.normal, b.origin), dot(c.normal, c.origin)];
  return scale([0, 1, 2].map((i) => da * bc[i]! + db * ca[i]! + dc * ab[i]!) as unknown as Vec3, 1 / whole);
}
