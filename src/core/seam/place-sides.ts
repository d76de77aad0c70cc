import { has } from "../items/kinds";
import {
  contains,
  distanceToPoint,
  dot,
  normalNear,
  type Shape,
  sub,
  surfaceCentre,
  type Vec3,
  verticesOf,
} from "../kernel";
import type { Knife } from "./division";
import type { Side } from "./piece";

/** The side of a piece that does not touch a cutter: all of it lies on one, so its point farthest away tells. */
export function sideByPlace(cutter: Knife, piece: Shape): Side {
  const points = verticesOf(piece);
  if (points.length === 0) points.push(surfaceCentre(piece));
  const { item } = cutter;
  if (has(item, "plane")) {
    const heights = points.map((point) => dot(sub(point, item.origin), item.normal));
    const far = heights.reduce((best, height) => (Math.abs(height) > Math.abs(best) ? height : best));
    return far >= 0 ? "front" : "back";
  }
  return sideOfPoint(cutter, points[0]!);
}

/** The side of a cutter that a point lies on. For a sheet: of the place on it that is nearest. */
export function sideOfPoint(cutter: Knife, point: Vec3): Side {
  const { item } = cutter;
  if (has(item, "closed")) return contains(cutter.shape, point) ? "in" : "out";
  if (has(item, "plane")) return dot(sub(point, item.origin), item.normal) >= 0 ? "front" : "back";
  const near = distanceToPoint(cutter.shape, point);
  if (!near) return "front";
  const turn = cutter.turns?.[0] ?? 1;
  return turn * dot(sub(point, near.on2), normalNear(cutter.shape, near.on2)) >= 0 ? "front" : "back";
}
