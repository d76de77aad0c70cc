import { add2, type Curve, curvesOf, distance2, length2, pointAt, scale2, slopeAt, type Vec2 } from "./curves";
import type { Entity } from "./entities";
import { findProfile, type Profile } from "./profile/regions";

/**
 * A drawing whose open ends run on straight, in the direction in which they end: a line as a longer line, any other curve by one
 * more. What is closed, or ends at another curve, stays as it is.
 * @param reach how far an end at a place has to run, mm.
 */
export function runOnProfile(entities: readonly Entity[], reach: (from: Vec2) => number): Profile {
  const curves = new Map(curvesOf(entities).map((curve) => [curve.id, curve] as const));
  const more: Curve[] = [];
  for (const { id, end, from, way } of openWays([...curves.values()])) {
    const curve = curves.get(id)!;
    const to = add2(from, scale2(way, reach(from)));
    const { shape } = curve;
    if (shape.kind === "line") curves.set(id, { ...curve, shape: { ...shape, [end ? "to" : "from"]: to } });
    else more.push({ id: `${id}-on${end}`, entity: curve.entity, closed: false, shape: { kind: "line", from, to } });
  }
  return findProfile([...curves.values(), ...more]);
}

/** The open ends of curves, each with the way in which it ends, outwards and of length one. */
export function openWays(curves: readonly Curve[]): { id: string; end: 0 | 1; from: Vec2; way: Vec2 }[] {
  const byId = new Map(curves.map((curve) => [curve.id, curve] as const));
  return findProfile(curves).openEnds.flatMap(({ at, curve: id }) => {
    const curve = byId.get(id)!;
    const end = distance2(pointAt(curve, 0), at) <= distance2(pointAt(curve, 1), at) ? 0 : 1;
    const slope = slopeAt(curve, end);
    if (length2(slope) === 0) return [];
    return [{ id, end, from: pointAt(curve, end), way: scale2(slope, (end ? 1 : -1) / length2(slope)) }];
  });
}
