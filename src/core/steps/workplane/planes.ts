import { add, cross, distance, dot, length, scale, sub, turned, unit, type Vec3 } from "../../kernel";
import { SAME_PLACE, SAME_WAY } from "../../tolerance";
import type { Plane } from "../shared/plane/planes";

/** Shorter than this, mm, and a direction cannot be told from rounding. */
const TINY = SAME_PLACE;

/** The part of `v` square to a unit axis, as a unit vector; null when there is none. */
export function squarePart(v: Vec3, axis: Vec3): Vec3 | null {
  const rest = sub(v, scale(axis, dot(axis, v)));
  return length(rest) < SAME_WAY ? null : unit(rest);
}

/** The plane through a line, turned about it from a reference direction: at 0 it lies as the reference face lies. */
export function aboutLine(at: Vec3, along: Vec3, reference: Vec3, angle: number): Plane | null {
  const normal = squarePart(reference, along);
  return normal ? { origin: at, normal: turned(normal, along, angle) } : null;
}

/** The plane through three points; its front is where they run counter-clockwise. Null when they lie on a line. */
export function throughPoints([a, b, c]: readonly [Vec3, Vec3, Vec3]): Plane | null {
  const normal = cross(sub(b, a), sub(c, a));
  const longest = Math.max(distance(a, b), distance(b, c), distance(a, c));
  if (longest < TINY || length(normal) < TINY * longest) return null;
  return { origin: a, normal: unit(normal) };
}

/**
 * The plane midway between two faces' planes: half-way between parallel ones, else one of the two that halve the angle
 * between them: the one that goes into the wedge or the groove that the faces make (their normals point out of the
 * material), or the `other`. Its front is where the first plane's is.
 */
export function midway(a: Plane, b: Plane, other: boolean): Plane {
  const middle = scale(add(a.origin, b.origin), 0.5);
  const line = cross(a.normal, b.normal);
  if (length(line) < SAME_WAY) return { origin: middle, normal: a.normal };
  // A point common to both planes: p = s·a + t·b with p·a and p·b given (their Gram matrix, solved).
  const u = unit(line);
  const heightA = dot(a.normal, a.origin);
  const heightB = dot(b.normal, b.origin);
  const c = dot(a.normal, b.normal);
  const share = 1 - c * c;
  const foot = add(scale(a.normal, (heightA - c * heightB) / share), scale(b.normal, (heightB - c * heightA) / share));
  const normal = unit(other ? add(a.normal, b.normal) : sub(a.normal, b.normal));
  return { origin: add(foot, scale(u, dot(u, middle))), normal };
}

/**
 * The plane that touches a cylinder along the line at an angle round its axis. The angle is counted from X, seen
 * against the axis; from Y for a cylinder along X. The front points out of the cylinder.
 */
export function touchingCylinder(axisAt: Vec3, axis: Vec3, radius: number, angle: number): Plane {
  const from = squarePart([1, 0, 0], axis) ?? squarePart([0, 1, 0], axis)!;
  const normal = turned(from, axis, angle);
  return { origin: add(axisAt, scale(normal, radius)), normal };
}

/**
 * The plane square to a face at a place of it: the way in which the face looks there lies in it. At 0 it is upright on a wall, and its front
 * looks to the right of who stands before the wall; on a floor it looks along X.
 */
export function squareOn(at: Vec3, looks: Vec3, angle: number): Plane {
  const level = cross([0, 0, 1], looks);
  const from = length(level) < SAME_WAY ? squarePart([1, 0, 0], looks)! : unit(level);
  return { origin: at, normal: turned(from, looks, angle) };
}

/** The plane through a point whose front looks along a direction of any length. Null where that is none. */
export function towards(through: Vec3, direction: Vec3): Plane | null {
  const most = Math.max(...direction.map(Math.abs));
  // Made the size of one first, so that neither 1e-200 nor 1e200 is lost on the way.
  return most > 0 ? { origin: through, normal: unit(scale(direction, 1 / most)) } : null;
}

/** A plane turned about the line through a point along a unit axis, right-handed. */
export function turnedAbout({ origin, normal }: Plane, through: Vec3, axis: Vec3, angle: number): Plane {
  return {
    origin: add(through, turned(sub(origin, through), axis, angle)),
    normal: turned(normal, axis, angle),
  };
}
