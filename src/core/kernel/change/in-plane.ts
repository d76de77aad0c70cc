import type { Elementary } from "../binary/surfaces";
import type { WrittenCurve } from "../binary/write";
import { dot, sub, type Vec3 } from "../space/vectors";

/** A curve in a plane, in the plane's parameters. */
export function inPlane<T extends WrittenCurve>(plane: Elementary, curve: T): T {
  const flat = (v: readonly number[]) => [dot(v as unknown as Vec3, plane.x), dot(v as unknown as Vec3, plane.y)];
  const at = flat(sub(curve.at as unknown as Vec3, plane.at));
  return curve.kind === "line"
    ? { ...curve, at, way: flat(curve.way) }
    : { ...curve, at, x: flat(curve.x), y: flat(curve.y) };
}
