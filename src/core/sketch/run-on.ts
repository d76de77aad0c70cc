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
  for (const { at, curve: id } of findProfile([...curves.values()]).openEnds) {
    const curve = curves.get(id)!;
    const end = distance2(pointAt(curve, 0), at) <= distance2(pointAt(curve, 1), at) ? 0 : 1;
    const from = pointAt(curve, end);
    const slope = slopeAt(curve, end);
    if (length2(slope) === 0) continue;
    const to = add2(from, scale2(slope, ((end ? 1 : -1) * reach(from)) / length2(slope)));
    const { shape } = curve;
    if (shape.kind === "line") curves.set(id, { ...curve, shape: { ...shape, [end ? "to" : "from"]: to } });
    else more.push({ id: `${id}-on${end}`, entity: curve.entity, closed: false, shape: { kind: "line", from, to } });
  }
  return findProfile([...curves.values(), ...more]);
}
