import { type Entity, placeOf, pointsOf, type Sketch, type Vec2 } from "@/core/sketch";

/** What a press on part of a drawing takes hold of, and where that goes as the pointer moves. */
export interface Grip {
  held: string[];
  /** The places of what is held, or the radius of a circle, for a place of the pointer. */
  to(at: Vec2): (Vec2 | number)[];
}

/** A point by itself, a circle by its rim, any other curve by all its points. Null for what does not move. */
export function gripOn(sketch: Sketch, entity: Entity, from: Vec2): Grip | null {
  const fixed = new Set(["origin", ...(sketch.given ?? []).map(({ id }) => id)]);
  if (fixed.has(entity.id)) return null;
  if (entity.type === "point") return { held: [entity.id], to: (at) => [at] };
  if (entity.type === "circle") {
    const [x, y] = placeOf(sketch, entity.centre);
    return { held: [entity.id], to: (at) => [Math.max(Math.hypot(at[0] - x, at[1] - y), 1e-3)] };
  }
  const held = [...new Set(pointsOf(entity))].filter((point) => !fixed.has(point));
  if (held.length === 0) return null;
  const places = held.map((point) => placeOf(sketch, point));
  return { held, to: (at) => places.map(([x, y]): Vec2 => [x + at[0] - from[0], y + at[1] - from[1]]) };
}
