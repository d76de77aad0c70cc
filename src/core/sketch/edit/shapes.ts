import { add2, cross2, distance2, dot2, length2, scale2, sub2, type Vec2 } from "../curves";
import type { EntityOf } from "../entities";
import { endsOf } from "../solver/contacts";
import { directionAtEnd } from "./ends";
import { type Place, placeOf, type SketchEdit } from "./sketch-edit";

/** Where a place is. */
export const whereIs = (edit: SketchEdit, place: Place): Vec2 =>
  typeof place === "string" ? placeOf(edit, place) : "rule" in place ? place.at : place;

/** Shapes smaller than this, mm, are none. */
const LEAST = 1e-6;

/** A rectangle between opposite corners, level and upright: its four sides, from the first corner on. */
export function rectangle(edit: SketchEdit, a: Place, c: Place): string[] {
  const [p, q] = [whereIs(edit, a), whereIs(edit, c)];
  const corners = [edit.point(a), edit.point([q[0], p[1]]), edit.point(c), edit.point([p[0], q[1]])];
  const sides = corners.map((corner, i) => edit.line(corner, corners[(i + 1) % 4]!));
  sides.forEach((side, i) => {
    edit.hold(i % 2 === 0 ? "horizontal" : "vertical", [side]);
  });
  return sides;
}

/** A rectangle about its centre: a diagonal keeps the centre amid. */
export function centredRectangle(edit: SketchEdit, centre: Place, corner: Place): string[] {
  const [c, q] = [whereIs(edit, centre), whereIs(edit, corner)];
  const middle = edit.point(centre);
  const sides = rectangle(edit, [2 * c[0] - q[0], 2 * c[1] - q[1]], corner);
  const [from, to] = [edit.find(sides[0]!), edit.find(sides[2]!)] as EntityOf<"line">[];
  const diagonal = edit.line(from!.from, to!.from);
  edit.asConstruction([diagonal], true);
  edit.hold("midpoint", [middle, diagonal]);
  return sides;
}

/** The centre of the circle through three points; null when they lie on a line. */
export function centreOfThree(a: Vec2, b: Vec2, c: Vec2): Vec2 | null {
  const [u, v] = [sub2(b, a), sub2(c, a)];
  const twice = 2 * cross2(u, v);
  if (Math.abs(twice) < 1e-9 * length2(u) * length2(v) || twice === 0) return null;
  const [uu, vv] = [dot2(u, u), dot2(v, v)];
  return add2(a, [(v[1] * uu - u[1] * vv) / twice, (u[0] * vv - v[0] * uu) / twice]);
}

/** A circle through three places: held on those that are points of the drawing. */
export function circleThrough(edit: SketchEdit, places: readonly [Place, Place, Place]): string | null {
  const [a, b, c] = places.map((place) => whereIs(edit, place)) as [Vec2, Vec2, Vec2];
  const centre = centreOfThree(a, b, c);
  if (!centre) return null;
  const circle = edit.circle(centre, distance2(centre, a));
  for (const place of places) {
    if (typeof place === "string") edit.hold("on", [place, circle]);
    else if ("rule" in place) edit.hold("on", [edit.point(place), circle]);
  }
  return circle;
}

/** An arc from one place to another through a third. */
export function arcThrough(edit: SketchEdit, from: Place, to: Place, through: Place): string | null {
  const [a, b, c] = [from, to, through].map((place) => whereIs(edit, place)) as [Vec2, Vec2, Vec2];
  const centre = centreOfThree(a, c, b);
  if (!centre) return null;
  const [start, end] = [edit.point(from), edit.point(to)];
  const left = cross2(sub2(c, a), sub2(b, c)) > 0;
  const arc = left ? edit.arc(centre, start, end) : edit.arc(centre, end, start);
  if (typeof through === "string") edit.hold("on", [through, arc]);
  return arc;
}

/** An arc round a centre from a place towards another, the shorter way round. */
export function arcAround(edit: SketchEdit, centre: Place, from: Place, towards: Place): string | null {
  const c = whereIs(edit, centre);
  const [out, way] = [sub2(whereIs(edit, from), c), sub2(whereIs(edit, towards), c)];
  const radius = length2(out);
  if (radius < LEAST || length2(way) < LEAST) return null;
  const end = add2(c, scale2(way, radius / length2(way)));
  const exact = typeof towards === "string" && distance2(end, whereIs(edit, towards)) < LEAST;
  const [middle, start] = [edit.point(centre), edit.point(from)];
  const last = exact ? towards : edit.point(end);
  return cross2(out, way) >= 0 ? edit.arc(middle, start, last) : edit.arc(middle, last, start);
}

/** An arc that goes on from where a curve ends, tangent to it. Null where nothing ends, or the place lies straight on. */
export function arcOnwards(edit: SketchEdit, from: string, to: Place): string | null {
  const curve = edit.entities.findLast((entity) => endsOf(entity).includes(from));
  if (!curve) return null;
  const [a, b] = [edit.at(from), whereIs(edit, to)];
  const way = directionAtEnd(edit, curve, from);
  const chord = sub2(b, a);
  const left: Vec2 = [-way[1], way[0]];
  const side = dot2(chord, left);
  if (Math.abs(side) < 1e-9 * length2(chord) || length2(chord) < LEAST) return null;
  const centre = add2(a, scale2(left, dot2(chord, chord) / (2 * side)));
  const end = edit.point(to);
  const arc = side > 0 ? edit.arc(centre, from, end) : edit.arc(centre, end, from);
  edit.hold("tangent", [curve.id, arc]);
  return arc;
}

/** A slot with round ends about two centres. */
export function slot(edit: SketchEdit, a: Place, b: Place, radius: number): string[] | null {
  const [p, q] = [whereIs(edit, a), whereIs(edit, b)];
  const along = sub2(q, p);
  if (length2(along) < LEAST || radius < LEAST) return null;
  const side = scale2([-along[1], along[0]], radius / length2(along));
  const [from, to] = [edit.point(a), edit.point(b)];
  const corners = [sub2(p, side), sub2(q, side), add2(q, side), add2(p, side)].map((at) => edit.point(at));
  const [l1, l2] = [edit.line(corners[0]!, corners[1]!), edit.line(corners[2]!, corners[3]!)];
  const [a1, a2] = [edit.arc(to, corners[1]!, corners[2]!), edit.arc(from, corners[3]!, corners[0]!)];
  for (const line of [l1, l2]) for (const arc of [a1, a2]) edit.hold("tangent", [line, arc]);
  edit.hold("equal", [a1, a2]);
  return [l1, a1, l2, a2];
}

/** A regular polygon about a centre, with one corner at a place: equal sides, corners on a circle that helps. */
export function polygon(edit: SketchEdit, centre: Place, corner: Place, count: number): string[] | null {
  const [c, first] = [whereIs(edit, centre), whereIs(edit, corner)];
  const out = sub2(first, c);
  if (length2(out) < LEAST) return null;
  const middle = edit.point(centre);
  const corners = Array.from({ length: count }, (_, i) => {
    if (i === 0) return edit.point(corner);
    const turn = (2 * Math.PI * i) / count;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    return edit.point(add2(c, [out[0] * cos - out[1] * sin, out[0] * sin + out[1] * cos]));
  });
  const sides = corners.map((from, i) => edit.line(from, corners[(i + 1) % count]!));
  const circle = edit.circle(middle, length2(out));
  edit.asConstruction([circle], true);
  for (const point of corners) edit.hold("on", [point, circle]);
  for (const side of sides.slice(1)) edit.hold("equal", [sides[0]!, side]);
  return sides;
}

/** An ellipse by its centre and the end of one axis, as wide as the third place is away from that axis. */
export function ellipseAbout(edit: SketchEdit, centre: Place, end: Place, side: Place): string | null {
  const [c, m, s] = [centre, end, side].map((place) => whereIs(edit, place)) as [Vec2, Vec2, Vec2];
  const axis = sub2(m, c);
  const half = length2(axis);
  if (half < LEAST) return null;
  const away = Math.abs(cross2(axis, sub2(s, c))) / half;
  return away < LEAST ? null : edit.ellipse(centre, end, away);
}
