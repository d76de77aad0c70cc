import {
  allOf,
  type Curve,
  curveNear,
  curvesOf,
  directionAtEnd,
  type Entity,
  endsOf,
  meet,
  type Place,
  placeOf,
  type Sketch,
  type Vec2,
} from "@/core/sketch";

/** What the way from the last place would hold. */
export interface LineRule {
  type: "horizontal" | "vertical" | "parallel" | "perpendicular" | "tangent";
  with?: string;
}

/** Where a click would land, and what would hold because of it: shown before the click. */
export interface Snap {
  place: Place;
  at: Vec2;
  rule: "point" | "on" | "midpoint" | null;
  /** The point or curve that the rule is with. */
  with?: string;
  line: LineRule | null;
}

/** Pixels within which a click means something that is there. */
const REACH = 10;
/** A line this near to a direction is meant to have it, radians. */
const NEARLY = (4 * Math.PI) / 180;
const MORE_NEARLY = (2 * Math.PI) / 180;

/**
 * What the pointer means: a point that is there, the middle of a line, a curve; else a place level with, upright over,
 * or along a direction from where the line began.
 * @param from the last place, when something is being drawn from it. @param scale pixels per millimetre.
 * @param free whether nothing is to be held: the key for that is down.
 * @param stops places of what is half drawn, which a click can mean as well: to end there.
 */
export function snap(
  sketch: Sketch,
  at: Vec2,
  from: Pick<Snap, "at" | "place"> | null,
  scale: number,
  free: boolean,
  stops: readonly Pick<Snap, "at" | "place">[] = [],
): Snap {
  const reach = REACH / scale;
  const near = (p: Vec2) => Math.hypot(p[0] - at[0], p[1] - at[1]) < reach;
  const stop = stops.find((one) => near(one.at));
  if (stop) return { place: stop.place, at: stop.at, rule: "point", line: null };
  if (free) return { place: at, at, rule: null, line: null };
  const points = allOf(sketch).filter(({ type }) => type === "point");
  const point = [...points.map(({ id }) => id), "origin"].find((id) => near(placeOf(sketch, id)));
  if (point) return { place: point, at: placeOf(sketch, point), rule: "point", with: point, line: null };
  const way = from ? direction(sketch, from, at) : null;
  const curve = curveNear(sketch, at, reach);
  if (curve) {
    const entity = allOf(sketch).find(({ id }) => id === curve.id)!;
    if (entity.type === "line") {
      const [a, b] = [placeOf(sketch, entity.from), placeOf(sketch, entity.to)];
      const middle: Vec2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
      if (near(middle)) return held(middle, "midpoint", curve.id, null);
    }
    if (entity.type !== "text") {
      const crossing = way && from ? alongTo(sketch, from.at, way.at, curve.id, at, reach) : null;
      return crossing ? held(crossing, "on", curve.id, way!.line) : held(curve.at, "on", curve.id, null);
    }
  }
  return way ? { place: way.at, at: way.at, rule: null, line: way.line } : { place: at, at, rule: null, line: null };
}

const held = (at: Vec2, rule: "on" | "midpoint", other: string, line: LineRule | null): Snap => ({
  place: { at, rule, with: other },
  at,
  rule,
  with: other,
  line,
});

/** Where a direction that is held meets a curve near the pointer: both are meant. */
function alongTo(sketch: Sketch, from: Vec2, to: Vec2, id: string, at: Vec2, reach: number): Vec2 | null {
  const far: Vec2 = [from[0] + (to[0] - from[0]) * 3, from[1] + (to[1] - from[1]) * 3];
  const ray: Curve = { id: "", entity: "", closed: false, shape: { kind: "line", from, to: far } };
  const curve = curvesOf(allOf(sketch), true).find((one) => one.entity === id)!;
  return meet(ray, curve).find((place) => Math.hypot(place[0] - at[0], place[1] - at[1]) < reach) ?? null;
}

/** The direction that a line from a place is meant to have. */
function direction(sketch: Sketch, from: Pick<Snap, "at" | "place">, at: Vec2): { at: Vec2; line: LineRule } | null {
  const [dx, dy] = [at[0] - from.at[0], at[1] - from.at[1]];
  const length = Math.hypot(dx, dy);
  if (length < 1e-9) return null;
  const slope = Math.atan2(Math.abs(dy), Math.abs(dx));
  if (slope < NEARLY) return { at: [at[0], from.at[1]], line: { type: "horizontal" } };
  if (slope > Math.PI / 2 - NEARLY) return { at: [from.at[0], at[1]], line: { type: "vertical" } };
  const along = (way: Vec2): Vec2 => {
    const k = dx * way[0] + dy * way[1];
    return [from.at[0] + way[0] * k, from.at[1] + way[1] * k];
  };
  const off = (way: Vec2): number =>
    Math.abs(Math.asin(Math.max(-1, Math.min(1, (dx * way[1] - dy * way[0]) / length))));
  for (const { curve, way } of curvesEndingAt(sketch, from.place)) {
    if (curve.type === "line") {
      const left: Vec2 = [-way[1], way[0]];
      if (off(left) < MORE_NEARLY) return { at: along(left), line: { type: "perpendicular", with: curve.id } };
    } else if (off(way) < MORE_NEARLY) return { at: along(way), line: { type: "tangent", with: curve.id } };
  }
  for (const entity of allOf(sketch)) {
    if (entity.type !== "line") continue;
    const [a, b] = [placeOf(sketch, entity.from), placeOf(sketch, entity.to)];
    const size = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (size < 1e-9) continue;
    const way: Vec2 = [(b[0] - a[0]) / size, (b[1] - a[1]) / size];
    const shares = typeof from.place === "string" && endsOf(entity).includes(from.place);
    if (!shares && off(way) < MORE_NEARLY / 2) return { at: along(way), line: { type: "parallel", with: entity.id } };
  }
  return null;
}

function curvesEndingAt(sketch: Sketch, place: Place): { curve: Entity; way: Vec2 }[] {
  if (typeof place !== "string") return [];
  return allOf(sketch)
    .filter((entity) => entity.type !== "text" && endsOf(entity).includes(place))
    .map((curve) => ({ curve, way: directionAtEnd(sketch, curve, place) }));
}
