import { type Curve, curvesOf, type Sketch, SketchEdit, type Vec2 } from "@/core/sketch";
import type { Snap } from "./snapping";
import { type DrawTool, type Sizes, STILL, type Stop } from "./tools/draw-tools";
import type { Settings } from "./tools/settings";

/** Something half drawn: the places so far. */
export interface HalfDrawn {
  stops: readonly Stop[];
  /** The first point of a chain, to close it at. */
  first?: string;
}

export interface AfterPress {
  sketch: Sketch;
  drawing: HalfDrawn | null;
}

const same = (a: Stop, b: Stop): boolean => Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) < STILL;

/** A click of a drawing tool: begins a shape, goes on with it, or finishes it. */
export function pressed(
  tool: DrawTool,
  sketch: Sketch,
  drawing: HalfDrawn | null,
  hit: Snap,
  settings: Settings,
): AfterPress {
  const stops = drawing?.stops ?? [];
  const last = stops.at(-1);
  if (tool.many) {
    if (last && same(last, hit)) return finishMany(tool, sketch, stops, settings);
    const closes = tool.many.closes && stops.length > 2 && same(stops[0]!, hit);
    if (closes) return finishMany(tool, sketch, stops, settings, true);
    return { sketch, drawing: { stops: [...stops, hit] } };
  }
  // Twice in the same place is one click.
  if (last && same(last, hit)) return { sketch, drawing };
  const next = [...stops, hit];
  if (next.length < tool.clicks.length) return { sketch, drawing: { ...drawing, stops: next } };
  const edit = new SketchEdit(sketch);
  const made = tool.draw(edit, next, settings);
  if (!made) return { sketch, drawing };
  return { sketch: edit.parts, drawing: tool.chain ? onwards(edit, made[0]!, drawing, hit) : null };
}

/** Where a chain goes on: from the end just drawn, unless that is where it began. */
function onwards(edit: SketchEdit, id: string, drawing: HalfDrawn | null, hit: Pick<Stop, "at">): HalfDrawn | null {
  const curve = edit.find(id) as { from: string; to: string };
  const [a, b] = [edit.at(curve.from), edit.at(curve.to)];
  const away = (p: Vec2) => Math.hypot(p[0] - hit.at[0], p[1] - hit.at[1]);
  const [start, end] = away(a) < away(b) ? [curve.to, curve.from] : [curve.from, curve.to];
  const first = drawing?.first ?? start;
  return end === first ? null : { stops: [{ place: end, at: edit.at(end) }], first };
}

/** Ends a shape that takes many places, with those there are. */
export function finishMany(
  tool: DrawTool,
  sketch: Sketch,
  stops: readonly Stop[],
  settings: Settings,
  closed = false,
): AfterPress {
  if (!tool.many || stops.length < tool.many.least) return { sketch, drawing: null };
  const edit = new SketchEdit(sketch);
  tool.draw(edit, stops, settings, closed);
  return { sketch: edit.parts, drawing: null };
}

/** Finishes a shape by typed sizes, mm and degrees. */
export function typed(
  tool: DrawTool,
  sketch: Sketch,
  drawing: HalfDrawn,
  sizes: Sizes,
  settings: Settings,
): AfterPress {
  const edit = new SketchEdit(sketch);
  const before = edit.entities.length;
  const made = tool.typed?.draw(edit, drawing.stops, sizes as Required<Sizes>, settings);
  if (!made) return { sketch, drawing };
  const end = edit.entities.slice(before).findLast(({ type }) => type === "point");
  const at = end?.type === "point" ? ([end.x, end.y] as const) : drawing.stops[0]!.at;
  return { sketch: edit.parts, drawing: tool.chain ? onwards(edit, made[0]!, drawing, { at }) : null };
}

/** What a click would draw now: the very curves; the way between the places while there are too few. */
export function preview(tool: DrawTool, sketch: Sketch, drawing: HalfDrawn, hover: Snap, settings: Settings): Curve[] {
  const stops = [...drawing.stops, hover];
  const enough = tool.many ? stops.length >= tool.many.least : stops.length >= tool.clicks.length;
  if (enough) {
    const edit = new SketchEdit(sketch);
    const known = new Set(edit.entities.map(({ id }) => id));
    if (!tool.draw(edit, stops, settings)) return [];
    return curvesOf([...edit.given, ...edit.entities], true).filter(
      ({ entity }) => !known.has(entity) && !isGiven(edit, entity),
    );
  }
  return stops.slice(1).map((stop, i): Curve => {
    const shape = { kind: "line" as const, from: stops[i]!.at, to: stop.at };
    return { id: `way${i}`, entity: `way${i}`, closed: false, shape };
  });
}

const isGiven = (edit: SketchEdit, id: string): boolean => edit.given.some((entity) => entity.id === id);
