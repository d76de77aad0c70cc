import type { GapCourse } from "@/core/check";

/** The places of a gap's course as a table of numbers: millimetres, or degrees round an axis, with where the gap begins and ends. */
export function gapTable({ by, of, places }: GapCourse): { fields: string[]; data: number[][] } {
  const along = by === "length" ? "Along, mm" : "Round, deg";
  // It begins on what it runs along.
  const ends = of === "first" ? ["A", "B"] : ["B", "A"];
  const coordinates = ends.flatMap((end) => ["X", "Y", "Z"].map((axis) => `${axis} at ${end}, mm`));
  return {
    fields: [along, "Gap, mm", ...coordinates],
    data: places.map((place) => [place.along, place.gap, ...place.from, ...place.to]),
  };
}
