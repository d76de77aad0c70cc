import { type Curve, curvesOf, distance2, pointAt, type Vec2 } from "../curves";
import { allOf, type Entity, type EntityOf, type Sketch } from "../entities";
import { meet } from "../meet";
import { crossings, nearestParameter, SAME } from "../profile/crossings";
import { endsOf } from "../solver/contacts";
import { pointsOf, SketchFault } from "../solver/geometry";
import { placeOf, type SketchEdit } from "./sketch-edit";

/** A curve that can be cut, moved and rounded: it has ends, or a centre that it goes round. */
export type Workable = EntityOf<"line" | "arc" | "circle" | "ellipse">;

/** The drawn curve nearest to a place, within a reach, mm. */
export function curveNear(sketch: Sketch, at: Vec2, reach: number): { id: string; t: number; at: Vec2 } | null {
  let best: { id: string; t: number; at: Vec2; away: number } | null = null;
  for (const curve of curvesOf(allOf(sketch), true)) {
    const t = nearestParameter(curve, at);
    if (t === null) continue;
    const place = pointAt(curve, t);
    const away = distance2(place, at);
    if (away <= reach && (best === null || away < best.away)) best = { id: curve.entity, t, at: place, away };
  }
  return best;
}

/** An entity that a change works on. @throws SketchFault when it is given, or of another type. */
export function workable<T extends Entity["type"]>(
  edit: SketchEdit,
  id: string,
  types: readonly T[],
  what: string,
): EntityOf<T> {
  const entity = edit.entities.find((other) => other.id === id);
  if (!entity) throw new SketchFault(`“${id}” comes from a body or is no part of this drawing: it cannot be changed.`);
  if (!(types as readonly string[]).includes(entity.type))
    throw new SketchFault(`${what}: “${id}” is a ${entity.type}.`);
  return entity as EntityOf<T>;
}

/** Where a curve meets the others of its drawing, by its own parameter. */
export interface Meeting {
  t: number;
  at: Vec2;
  with: string;
}

export function meetings(sketch: Sketch, curve: Curve): Meeting[] {
  return curvesOf(allOf(sketch), true)
    .filter((other) => other.entity !== curve.entity)
    .flatMap((other) => crossings(curve, other).map(({ s, at }) => ({ t: s, at, with: other.entity })));
}

export const curveOf = (sketch: Sketch, id: string): Curve =>
  curvesOf(allOf(sketch), true).find((curve) => curve.entity === id)!;

/** The point where a curve is cut by another: the other's own end where it ends there, else a new point held on it. */
export function pointOfMeeting(edit: SketchEdit, { at, with: other }: Meeting): string {
  const entity = edit.find(other)!;
  const there = endsOf(entity).find((end) => distance2(placeOf(edit, end), at) < SAME);
  if (there) return there;
  return edit.point(entity.type === "text" ? at : { at, rule: "on", with: other });
}

/** The curves that begin or end in a point. */
export const curvesEndingIn = (edit: SketchEdit, point: string): Entity[] =>
  edit.entities.filter((entity) => endsOf(entity).includes(point));

/** Takes out points that serve nothing any more: no curve stands on them and nothing is held about them but by rule. */
export function dropIdle(edit: SketchEdit, points: readonly string[]): void {
  const used = new Set(edit.entities.flatMap(pointsOf));
  edit.remove(points.filter((point) => point !== "origin" && !used.has(point)));
}

/** Rules that became empty or wrong because a line changed its length or an end: what they said was about the old one. */
export function dropLengthRules(edit: SketchEdit, line: string): void {
  const gone = [
    ...edit.constraints.filter(
      ({ type, of }) => of.includes(line) && (type === "midpoint" || (type === "equal" && isLine(edit, line))),
    ),
    ...edit.dimensions.filter(
      ({ type, of }) => of.length === 1 && of[0] === line && isLine(edit, line) && type !== "radius",
    ),
  ];
  edit.remove(gone.map(({ id }) => id));
}

const isLine = (edit: SketchEdit, id: string): boolean => edit.find(id)?.type === "line";

/** A point held on a curve that now ends in it says nothing. */
export function dropEmptyRules(edit: SketchEdit): void {
  edit.remove(
    edit.constraints
      .filter(({ type, of: [point, curve] }) => {
        const entity = type === "on" && curve ? edit.find(curve) : undefined;
        return entity !== undefined && endsOf(entity).includes(point!);
      })
      .map(({ id }) => id),
  );
}

/** What a box between two corners takes: what lies wholly in it, or all that it touches. Points count by their curves. */
export function inBox(sketch: Sketch, a: Vec2, b: Vec2, takes: "inside" | "touched"): string[] {
  const [min, max]: [Vec2, Vec2] = [
    [Math.min(a[0], b[0]), Math.min(a[1], b[1])],
    [Math.max(a[0], b[0]), Math.max(a[1], b[1])],
  ];
  const holds = ([x, y]: Vec2) => x >= min[0] && x <= max[0] && y >= min[1] && y <= max[1];
  const corners: Vec2[] = [min, [max[0], min[1]], max, [min[0], max[1]]];
  const sides = corners.map((from, i): Curve => {
    const shape = { kind: "line" as const, from, to: corners[(i + 1) % 4]! };
    return { id: `side${i}`, entity: "", closed: false, shape };
  });
  const all = curvesOf(sketch.entities, true);
  const taken = (curve: Curve): boolean => {
    // A curve that does not cross the box lies wholly on the side on which it begins.
    const crosses = sides.some((side) => meet(side, curve).length > 0);
    return takes === "touched" ? crosses || holds(pointAt(curve, 0)) : !crosses && holds(pointAt(curve, 0));
  };
  const found = new Map<string, boolean>();
  for (const curve of all) {
    const before = found.get(curve.entity);
    const now = taken(curve);
    found.set(curve.entity, before === undefined ? now : takes === "touched" ? before || now : before && now);
  }
  const used = new Set(sketch.entities.flatMap(pointsOf));
  const lone = sketch.entities.filter(
    (entity) => entity.type === "point" && !used.has(entity.id) && holds(placeOf(sketch, entity.id)),
  );
  return [...[...found].filter(([, is]) => is).map(([id]) => id), ...lone.map(({ id }) => id)];
}
