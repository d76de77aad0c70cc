import type { Part } from "../job";
import { baseName } from "../naming";
import { stepOf } from "./bench";

/** A side that a curve of a drawing made: the step that drew it out (or the drawing itself, as a knife), and the curve. */
const SIDE = /^([^:]+):side:([^:]+)$/;

/**
 * The points, by id and in order, that the curve goes through which a face was drawn out from. Read from the sheet itself:
 * a face keeps its name wherever it goes.
 * @returns null where the face does not come from a curve through points, or that is not known.
 */
export function drawnThrough(part: Part, face: string): readonly string[] | null {
  const [, maker, curve] = SIDE.exec(baseName(face)) ?? [];
  const made = part.steps.find(({ id }) => id === maker) as { type: string; sketch?: unknown } | undefined;
  const drawing = made?.type === "sketch" ? made : sketchOf(part, made?.sketch);
  const entities = (drawing as { entities?: unknown } | undefined)?.entities;
  if (!Array.isArray(entities)) return null;
  const drawn = entities.find(({ id }) => id === curve);
  if (drawn?.type !== "spline" || drawn.form !== "through") return null;
  return drawn.closed ? [...drawn.points, drawn.points[0]] : drawn.points;
}

/** Whether a part has any curve drawn through points, so that its faces may come from one. */
export const drawsThroughPoints = (part: Part): boolean =>
  part.steps.some(
    (step) =>
      step.type === "sketch" &&
      (step as unknown as { entities: { type: string }[] }).entities.some(({ type }) => type === "spline"),
  );

function sketchOf(part: Part, refs: unknown) {
  const [ref] = Array.isArray(refs) ? refs : [];
  return part.steps.find(({ id, type }) => typeof ref === "string" && id === stepOf(ref) && type === "sketch");
}
