import { type Place, type Sketch, SketchEdit, type Vec2 } from "@/core/sketch";
import type { Snap } from "./snapping";

export type SketchTool = "select" | "line" | "rectangle" | "circle";

/** Something half drawn: where it began. A chain of lines knows where its first one did. */
export interface Drawing {
  from: { place: Place; at: Vec2 };
  /** The first point of a chain, to close it at. */
  first?: string;
}

/** What a tool draws from where it began to a place, as a chain of points for the eye. */
export function drawTool(tool: SketchTool, { from: { at: a } }: Drawing, { at: b }: Pick<Snap, "at">): Vec2[] {
  if (tool === "rectangle") return [a, [b[0], a[1]], b, [a[0], b[1]], a];
  if (tool === "circle") {
    const r = Math.hypot(b[0] - a[0], b[1] - a[1]);
    return Array.from(
      { length: 65 },
      (_, i): Vec2 => [a[0] + r * Math.cos((i * Math.PI) / 32), a[1] + r * Math.sin((i * Math.PI) / 32)],
    );
  }
  return [a, b];
}

/** Closer than this, mm, and two clicks are one. */
const STILL = 1e-6;

/** A click of a drawing tool: begins a shape, or finishes it. */
export function pressed(
  tool: SketchTool,
  sketch: Sketch,
  drawing: Drawing | null,
  hit: Snap,
): { sketch: Sketch; drawing: Drawing | null } {
  if (!drawing) return { sketch, drawing: { from: hit } };
  if (Math.hypot(hit.at[0] - drawing.from.at[0], hit.at[1] - drawing.from.at[1]) < STILL) return { sketch, drawing };
  const edit = new SketchEdit(sketch);
  if (tool === "rectangle") {
    if (Math.min(Math.abs(hit.at[0] - drawing.from.at[0]), Math.abs(hit.at[1] - drawing.from.at[1])) < STILL)
      return { sketch, drawing };
    edit.rectangle(drawing.from.place, hit.place);
    return { sketch: edit.parts, drawing: null };
  }
  if (tool === "circle") {
    edit.circle(drawing.from.place, Math.hypot(hit.at[0] - drawing.from.at[0], hit.at[1] - drawing.from.at[1]));
    return { sketch: edit.parts, drawing: null };
  }
  return line(edit, drawing, hit);
}

/** A line of a chain, with what was shown to hold; the chain ends where it meets its beginning. */
function line(edit: SketchEdit, drawing: Drawing, hit: Snap): { sketch: Sketch; drawing: Drawing | null } {
  const start = edit.point(drawing.from.place);
  const end = edit.point(hit.place);
  const id = edit.line(start, end);
  if (hit.rule === "horizontal" || hit.rule === "vertical") edit.hold(hit.rule, [id]);
  const first = drawing.first ?? start;
  return { sketch: edit.parts, drawing: end === first ? null : { from: { place: end, at: hit.at }, first } };
}

/** The sizes that can be typed while a shape is drawn. */
export const TYPED: Record<SketchTool, readonly ("width" | "height" | "length" | "angle" | "diameter")[]> = {
  select: [],
  line: ["length", "angle"],
  rectangle: ["width", "height"],
  circle: ["diameter"],
};
export type TypedSizes = Partial<Record<"width" | "height" | "length" | "angle" | "diameter", number>>;

/** Finishes a shape by typed sizes, mm and degrees, which stay as its dimensions. */
export function finish(
  tool: SketchTool,
  sketch: Sketch,
  drawing: Drawing,
  sizes: TypedSizes,
): { sketch: Sketch; drawing: Drawing | null } {
  const edit = new SketchEdit(sketch);
  const [x, y] = drawing.from.at;
  if (tool === "rectangle") {
    const [width, height] = [sizes.width ?? 0, sizes.height ?? 0];
    const [bottom, right] = edit.rectangle(drawing.from.place, [x + width, y + height]) as [string, string];
    edit.size("distance", [bottom], Math.abs(width));
    edit.size("distance", [right], Math.abs(height));
    return { sketch: edit.parts, drawing: null };
  }
  if (tool === "circle") {
    const circle = edit.circle(drawing.from.place, (sizes.diameter ?? 0) / 2);
    edit.size("diameter", [circle], sizes.diameter ?? 0);
    return { sketch: edit.parts, drawing: null };
  }
  const length = sizes.length ?? 0;
  const angle = ((sizes.angle ?? 0) * Math.PI) / 180;
  const at: Vec2 = [x + length * Math.cos(angle), y + length * Math.sin(angle)];
  const turns = Math.round((sizes.angle ?? 0) / 90);
  const square = Math.abs((sizes.angle ?? 0) - 90 * turns) < 1e-9;
  const next = line(edit, drawing, {
    place: at,
    at,
    rule: square ? (turns % 2 === 0 ? "horizontal" : "vertical") : null,
  });
  const sized = new SketchEdit(next.sketch);
  const id = sized.entities.findLast(({ type }) => type === "line")!.id;
  sized.size("distance", [id], length);
  if (!square) sized.size("angle", ["axis-x", id], sizes.angle ?? 0);
  return { sketch: sized.parts, drawing: next.drawing };
}
