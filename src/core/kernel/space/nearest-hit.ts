import type { Vec3 } from "./vectors";

/** Triangles by their corners, as a mesh has them. */
export interface Triangles {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
}

/** As in `rayHit`: below this, the sine of the angle between a ray and a triangle counts as nothing. */
const FLAT = 1e-9;

/** As a part of a triangle: by so much past its sides a ray meets it still, as one along the side of two would slip between them by rounding. */
const SIDE = 1e-9;

/**
 * How far along a ray the nearest of many triangles is, mm; endless where it meets none. It is `rayHit` for all of them, written out, and with their sides: thousands are
 * asked about for the number of each piece, and lists made on the way would cost more than the sums.
 * @param along of length 1. @param beyond mm: what is nearer than this is the triangle that the ray begins on.
 */
export function nearestHit({ positions, indices }: Triangles, from: Vec3, along: Vec3, beyond: number): number {
  const [fx, fy, fz] = from;
  const [dx, dy, dz] = along;
  let nearest = Number.POSITIVE_INFINITY;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [3 * indices[t]!, 3 * indices[t + 1]!, 3 * indices[t + 2]!];
    const ax = positions[a]!;
    const ay = positions[a + 1]!;
    const az = positions[a + 2]!;
    const e1x = positions[b]! - ax;
    const e1y = positions[b + 1]! - ay;
    const e1z = positions[b + 2]! - az;
    const e2x = positions[c]! - ax;
    const e2y = positions[c + 1]! - ay;
    const e2z = positions[c + 2]! - az;
    const px = dy * e2z - dz * e2y;
    const py = dz * e2x - dx * e2z;
    const pz = dx * e2y - dy * e2x;
    const det = e1x * px + e1y * py + e1z * pz;
    const sizes = (e1x * e1x + e1y * e1y + e1z * e1z) * (e2x * e2x + e2y * e2y + e2z * e2z);
    if (det * det <= FLAT * FLAT * sizes) continue;
    const sx = fx - ax;
    const sy = fy - ay;
    const sz = fz - az;
    const u = (sx * px + sy * py + sz * pz) / det;
    if (u < -SIDE || u > 1 + SIDE) continue;
    const qx = sy * e1z - sz * e1y;
    const qy = sz * e1x - sx * e1z;
    const qz = sx * e1y - sy * e1x;
    const v = (dx * qx + dy * qy + dz * qz) / det;
    if (v < -SIDE || u + v > 1 + SIDE) continue;
    const hit = (e2x * qx + e2y * qy + e2z * qz) / det;
    if (hit > beyond && hit < nearest) nearest = hit;
  }
  return nearest;
}
