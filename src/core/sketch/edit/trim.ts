import { type Curve, type CurveShape, length2, pointAt, slopeAt, type Vec2 } from "../curves";
import type { EntityOf, Sketch } from "../entities";
import { nearestParameter, SAME } from "../profile/crossings";
import { endsOf } from "../solver/contacts";
import { SketchFault } from "../solver/geometry";
import {
  curveOf,
  curvesEndingIn,
  dropEmptyRules,
  dropIdle,
  dropLengthRules,
  type Meeting,
  meetings,
  pointOfMeeting,
  workable,
} from "./lookup";
import { SketchEdit } from "./sketch-edit";

const CUTTABLE = ["line", "arc", "circle", "ellipse"] as const;

/**
 * Takes away the stretch of a curve that a place lies on, between where the curve meets others.
 * @throws SketchFault for a spline or text, and for a closed curve that is met in one place only.
 */
export function trim(sketch: Sketch, id: string, near: Vec2): Sketch {
  const edit = new SketchEdit(sketch);
  const entity = workable(edit, id, CUTTABLE, "Only lines, arcs, circles and ellipses can be trimmed");
  const curve = curveOf(sketch, id);
  const t = nearestParameter(curve, near) ?? 0.5;
  const cuts = meetings(sketch, curve)
    .filter((meeting) => curve.closed || (away(curve, meeting.t, 0) && away(curve, meeting.t, 1)))
    .sort((a, b) => a.t - b.t);
  if (curve.closed) return trimRing(edit, entity as EntityOf<"circle" | "ellipse">, cuts, t);
  const before = cuts.findLast((cut) => cut.t <= t);
  const after = cuts.find((cut) => cut.t > t);
  if (!before && !after) {
    edit.remove([id]);
    return edit.parts;
  }
  const open = entity as EntityOf<"line" | "arc"> & { from: string; to: string };
  const [first, last] = endsOf(entity) as [string, string];
  dropLengthRules(edit, id);
  if (before && after) {
    if (entity.type === "ellipse")
      throw new SketchFault("The middle of part of an ellipse cannot be taken away. Trim from one of its ends.");
    const [a, b] = [pointOfMeeting(edit, before), pointOfMeeting(edit, after)];
    edit.replace(id, { ...open, to: a });
    if (entity.type === "line") {
      const rest = edit.line(b, last);
      edit.asConstruction([rest], entity.construction);
      for (const point of [b, last]) edit.hold("on", [point, id]);
    } else {
      const rest = edit.arc((entity as EntityOf<"arc">).centre, b, last);
      edit.asConstruction([rest], entity.construction);
      edit.hold("equal", [id, rest]);
    }
  } else if (before) {
    edit.replace(id, { ...open, to: pointOfMeeting(edit, before) });
    dropIdle(edit, [last]);
  } else if (after) {
    edit.replace(id, { ...open, from: pointOfMeeting(edit, after) });
    dropIdle(edit, [first]);
  }
  dropEmptyRules(edit);
  return edit.parts;
}

function trimRing(edit: SketchEdit, entity: EntityOf<"circle" | "ellipse">, cuts: Meeting[], t: number): Sketch {
  const places = cuts.filter((cut, i) => i === 0 || cut.t - cuts[i - 1]!.t > 1e-9);
  if (places.length === 0) {
    edit.remove([entity.id]);
    return edit.parts;
  }
  if (places.length === 1)
    throw new SketchFault(`“${entity.id}” is met in one place only. Draw something that crosses it twice.`);
  const before = places.findLast((cut) => cut.t <= t) ?? places.at(-1)!;
  const after = places.find((cut) => cut.t > t) ?? places[0]!;
  // What stays runs on from where the stretch ended, all the way round to where it began.
  const [from, to] = [pointOfMeeting(edit, after), pointOfMeeting(edit, before)];
  const { id, centre, construction } = entity;
  edit.replace(
    id,
    entity.type === "circle" ? { id, type: "arc", centre, from, to, construction } : { ...entity, from, to },
  );
  dropEmptyRules(edit);
  return edit.parts;
}

const away = (curve: Curve, t: number, end: number): boolean =>
  Math.abs(t - end) * length2(slopeAt(curve, end)) > 2 * SAME;

/** How far a line is looked along for something to end on, mm. */
const FAR = 200_000;

/**
 * Lengthens a line or arc from the end nearer to a place until it meets something.
 * @throws SketchFault when nothing lies that way.
 */
export function extend(sketch: Sketch, id: string, near: Vec2): Sketch {
  const edit = new SketchEdit(sketch);
  const entity = workable(edit, id, ["line", "arc"], "Only lines and arcs can be extended");
  const curve = curveOf(sketch, id);
  const atEnd = (nearestParameter(curve, near) ?? 1) > 0.5;
  const beyond: Curve = { ...curve, shape: onwards(curve.shape, atEnd) };
  const [next] = meetings(sketch, beyond)
    .filter(({ t }) => away(beyond, t, 0) && (entity.type === "line" || away(beyond, t, 1)))
    .sort((a, b) => a.t - b.t);
  if (!next) throw new SketchFault(`Nothing lies that way for “${id}” to end on.`);
  const old = atEnd ? entity.to : entity.from;
  dropLengthRules(edit, id);
  const alone = curvesEndingIn(edit, old).length === 1;
  edit.replace(id, { ...entity, [atEnd ? "to" : "from"]: pointOfMeeting(edit, next) });
  if (alone) dropIdle(edit, [old]);
  dropEmptyRules(edit);
  return edit.parts;
}

/** What a line or arc would run along beyond one of its ends. */
function onwards(shape: CurveShape, atEnd: boolean): CurveShape {
  if (shape.kind === "arc") {
    const rest = 2 * Math.PI - shape.sweep;
    return atEnd ? { ...shape, start: shape.start + shape.sweep, sweep: rest } : { ...shape, sweep: -rest };
  }
  if (shape.kind !== "line") return shape;
  const [from, to] = atEnd ? [shape.from, shape.to] : [shape.to, shape.from];
  const whole: Curve = { id: "", entity: "", closed: false, shape: { kind: "line", from, to } };
  const size = length2(slopeAt(whole, 0));
  return { kind: "line", from: to, to: pointAt(whole, 1 + FAR / size) };
}
