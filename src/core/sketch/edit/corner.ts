import { add2, type Curve, cross2, distance2, dot2, length2, scale2, sub2, type Vec2 } from "../curves";
import type { Entity, EntityOf, Sketch } from "../entities";
import { crossings, nearestParameter } from "../profile/crossings";
import { endsOf } from "../solver/contacts";
import { pointsOf, SketchFault } from "../solver/geometry";
import { directionAtEnd } from "./ends";
import { curveOf, curvesEndingIn, dropEmptyRules, dropIdle } from "./lookup";
import { placeOf, SketchEdit } from "./sketch-edit";

type Side = EntityOf<"line" | "arc">;

/** A corner: the two curves that meet in a point, and the directions in which they leave it. */
interface Corner {
  sides: [Side, Side];
  ways: [Vec2, Vec2];
  at: Vec2;
}

function cornerAt(edit: SketchEdit, point: string): Corner {
  const sides = curvesEndingIn(edit, point).filter(({ construction }) => !construction);
  if (sides.length !== 2 || !sides.every((side): side is Side => side.type === "line" || side.type === "arc"))
    throw new SketchFault("Pick a point where exactly two lines or arcs end.");
  const ways = sides.map((side) => scale2(directionAtEnd(edit, side, point), -1)) as [Vec2, Vec2];
  if (Math.abs(cross2(...ways)) < 1e-6)
    throw new SketchFault("These two run straight on into each other: there is no corner.");
  return { sides: sides as [Side, Side], ways, at: placeOf(edit, point) };
}

/**
 * Rounds the corner at a point with an arc tangent to both sides, its radius held by a dimension.
 * @throws SketchFault when there is no corner, or the radius does not fit it.
 */
export function roundCorner(sketch: Sketch, point: string, radius: number): Sketch {
  const edit = new SketchEdit(sketch);
  const corner = cornerAt(edit, point);
  const { sides, ways, at } = corner;
  const offsets = sides.map((side, i) => offsetSide(edit, side, point, ways[i]!, ways[1 - i]!, radius));
  const touching = ([centre, ...rest]: Vec2[]): Vec2 | null => {
    if (!centre) return null;
    return sides.every((side, i) => footOn(edit, side, point, centre, ways[i]!, at) !== null) ? centre : touching(rest);
  };
  const centres = crossings(offsets[0]!, offsets[1]!)
    .map((crossing) => crossing.at)
    .sort((a, b) => distance2(a, at) - distance2(b, at));
  const centre = touching(centres);
  if (!centre) throw new SketchFault("The radius is too large for this corner: the arc would not end on both sides.");
  const [p, q] = sides.map((side, i) => footOn(edit, side, point, centre, ways[i]!, at)!) as [Vec2, Vec2];
  const [a, b] = [edit.point(p), edit.point(q)];
  const arc = cross2(sub2(p, centre), sub2(q, centre)) > 0 ? edit.arc(centre, a, b) : edit.arc(centre, b, a);
  takeBack(edit, point, corner, [a, b]);
  for (const { id } of sides) edit.hold("tangent", [id, arc]);
  edit.size("radius", [arc], radius);
  return edit.parts;
}

/**
 * Cuts the corner between two lines off at a distance along both from it, which two dimensions hold.
 * @throws SketchFault when there is no such corner, or a line is too short.
 */
export function cutCorner(sketch: Sketch, point: string, distance: number): Sketch {
  const edit = new SketchEdit(sketch);
  const corner = cornerAt(edit, point);
  const { sides, ways, at } = corner;
  if (sides.some(({ type }) => type !== "line")) throw new SketchFault("Only a corner between two lines can be cut.");
  const short = sides.find((side) => distance2(placeOf(edit, otherEnd(side, point)), at) <= distance + 1e-6);
  if (short) throw new SketchFault(`“${short.id}” is too short for this cut.`);
  const [a, b] = ways.map((way) => edit.point(add2(at, scale2(way, distance)))) as [string, string];
  edit.line(a, b);
  takeBack(edit, point, corner, [a, b], true);
  for (const end of [a, b]) edit.size("distance", [point, end], distance);
  return edit.parts;
}

/** Where the centre of a rounding can lie because of one side: on the side's own curve, moved inwards by the radius. */
function offsetSide(edit: SketchEdit, side: Side, point: string, way: Vec2, other: Vec2, radius: number): Curve {
  const at = placeOf(edit, point);
  const left = cross2(way, other) > 0 ? 1 : -1;
  const base = { id: side.id, entity: side.id };
  if (side.type === "line") {
    const moved = add2(at, scale2([-way[1], way[0]], left * radius));
    const reach = distance2(placeOf(edit, otherEnd(side, point)), at);
    return { ...base, closed: false, shape: { kind: "line", from: moved, to: add2(moved, scale2(way, reach)) } };
  }
  const centre = placeOf(edit, side.centre);
  const full = distance2(centre, at);
  const inside = cross2(way, sub2(centre, at)) * left > 0;
  const rest = inside ? full - radius : full + radius;
  if (rest <= 1e-6)
    throw new SketchFault("The radius is too large for this corner: the arc would not end on both sides.");
  return { ...base, closed: true, shape: { kind: "arc", centre, radius: rest, start: 0, sweep: 2 * Math.PI } };
}

/** Where a rounding about a centre touches a side; null where that is beyond the side. */
function footOn(edit: SketchEdit, side: Side, point: string, centre: Vec2, way: Vec2, at: Vec2): Vec2 | null {
  const foot =
    side.type === "line"
      ? add2(at, scale2(way, dot2(sub2(centre, at), way)))
      : onCircle(placeOf(edit, side.centre), distance2(placeOf(edit, side.centre), at), centre);
  const curve = curveOf(edit, side.id);
  const t = nearestParameter(curve, foot);
  const end = endsOf(side)[0] === point ? 1 - (t ?? 1) : (t ?? 0);
  return t !== null && end > 1e-9 && end < 1 - 1e-12 ? foot : null;
}

function onCircle(centre: Vec2, radius: number, towards: Vec2): Vec2 {
  const out = sub2(towards, centre);
  return add2(centre, scale2(out, radius / (length2(out) || 1)));
}

const otherEnd = (side: Side, point: string): string => (side.from === point ? side.to : side.from);

/**
 * Ends both sides in new points. The corner stays, as a point that only helps, where something refers to it: sizes that
 * were of a whole side still are.
 */
function takeBack(edit: SketchEdit, point: string, { sides }: Corner, ends: [string, string], keep = false): void {
  const whole = new Set<string>();
  sides.forEach((side, i) => {
    const other = otherEnd(side, point);
    edit.dimensions.forEach((dimension, d) => {
      if (side.type !== "line" || dimension.of.length !== 1 || dimension.of[0] !== side.id) return;
      edit.dimensions[d] = { ...dimension, of: side.from === point ? [point, other] : [other, point] };
      whole.add(point);
    });
    edit.remove(
      edit.constraints
        .filter(
          ({ type, of }) => side.type === "line" && of.includes(side.id) && (type === "equal" || type === "midpoint"),
        )
        .map(({ id }) => id),
    );
    edit.replace(side.id, { ...side, [side.from === point ? "from" : "to"]: ends[i]! } as Entity);
  });
  const used =
    keep ||
    point === "origin" ||
    whole.has(point) ||
    edit.entities.some((entity) => pointsOf(entity).includes(point)) ||
    [...edit.constraints, ...edit.dimensions].some(({ of }) => of.includes(point));
  if (used) {
    edit.asConstruction([point], true);
    for (const { id } of sides) edit.hold("on", [point, id]);
  } else dropIdle(edit, [point]);
  dropEmptyRules(edit);
}
