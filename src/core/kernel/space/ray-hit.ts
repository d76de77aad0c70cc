import { cross, dot, length, sub, type Vec3 } from "./vectors";

/** Below this, the sine of the angle between a ray and a triangle counts as nothing: it runs along it, not through. */
const FLAT = 1e-9;

/**
 * Where a ray runs through a triangle, in lengths of `along`; null where it does not. The triangle is a corner and the two
 * sides from there. (Möller and Trumbore, Fast, Minimum Storage Ray/Triangle Intersection, 1997.)
 */
export function rayHit(from: Vec3, along: Vec3, { a, ab, ac }: { a: Vec3; ab: Vec3; ac: Vec3 }): number | null {
  const p = cross(along, ac);
  const det = dot(ab, p);
  if (Math.abs(det) <= FLAT * length(along) * length(ab) * length(ac)) return null;
  const s = sub(from, a);
  const u = dot(s, p) / det;
  if (u < 0 || u > 1) return null;
  const q = cross(s, ab);
  const v = dot(along, q) / det;
  if (v < 0 || u + v > 1) return null;
  return dot(ac, q) / det;
}
