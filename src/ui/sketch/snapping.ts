import type { Place, Sketch, Vec2 } from "@/core/sketch";
import { placeOf } from "@/core/sketch";

/** Where a click would land, and what would hold because of it. */
export interface Snap {
  place: Place;
  at: Vec2;
  /** What would be held, shown before the click. */
  rule: "point" | "horizontal" | "vertical" | null;
}

/** Pixels within which a click means a point that is there. */
const REACH = 10;
/** A line this near to level or upright is meant to be so, radians. */
const NEARLY = (4 * Math.PI) / 180;

/**
 * What the pointer means: a point that is there, else a place level with or upright over where the line began.
 * @param scale pixels per millimetre. @param free whether nothing is to be held: the key for that is down.
 */
export function snap(sketch: Sketch, at: Vec2, from: Vec2 | null, scale: number, free: boolean): Snap {
  if (free) return { place: at, at, rule: null };
  const near = (p: readonly [number, number]) => Math.hypot(p[0] - at[0], p[1] - at[1]) * scale < REACH;
  const point = [...sketch.entities.filter(({ type }) => type === "point").map(({ id }) => id), "origin"].find((id) =>
    near(placeOf(sketch, id)),
  );
  if (point) return { place: point, at: placeOf(sketch, point), rule: "point" };
  if (from) {
    const [dx, dy] = [at[0] - from[0], at[1] - from[1]];
    const slope = Math.atan2(Math.abs(dy), Math.abs(dx));
    if (slope < NEARLY) return { place: [at[0], from[1]], at: [at[0], from[1]], rule: "horizontal" };
    if (slope > Math.PI / 2 - NEARLY) return { place: [from[0], at[1]], at: [from[0], at[1]], rule: "vertical" };
  }
  return { place: at, at, rule: null };
}
