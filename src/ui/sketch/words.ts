import type { Sketch } from "@/core/sketch";
import type { Snap } from "./snapping";

const BUILT_IN: Record<string, string> = { origin: "the origin", "axis-x": "the X axis", "axis-y": "the Y axis" };
const PLACE_WORDS = { point: "on the point", on: "on", midpoint: "amid" } as const;
const LINE_WORDS = {
  horizontal: "level",
  vertical: "upright",
  parallel: "parallel to",
  perpendicular: "square to",
  tangent: "tangent to",
} as const;

/** What a person calls a part of a drawing: by its id, or as what it is where it was not drawn. */
export function wordFor(sketch: Pick<Sketch, "given">, id: string): string {
  const given = sketch.given?.find((entity) => entity.id === id);
  if (given) return given.type === "point" ? "a corner of a body" : "an edge of a body";
  return BUILT_IN[id] ?? id;
}

/** What the next click would hold, in words. */
export function snapWords(sketch: Pick<Sketch, "given">, { rule, with: other, line }: Snap): string {
  const name = (id: string | undefined) => (id === undefined ? "" : wordFor(sketch, id));
  const place = rule === null ? "" : rule === "point" ? PLACE_WORDS.point : `${PLACE_WORDS[rule]} ${name(other)}`;
  const way = line ? `${LINE_WORDS[line.type]} ${name(line.with)}`.trim() : "";
  return [way, place].filter(Boolean).join(", ");
}
