import type { LinkDifference } from "@/engine/contract";
import { type DrawnBody, type DrawnLines, plainBody } from "../viewport/drawn";

/** What a step brought in, held against what is there now. */
export interface Comparing {
  step: string;
  /** Null while it is worked out. */
  differences: LinkDifference[] | null;
  trouble: string | null;
}

/** How what is compared is drawn: as it was seen through, as it is now solid. */
export function drawCompared({ differences }: Comparing): { bodies: DrawnBody[]; lines: DrawnLines[] } {
  const drawing = { bodies: [] as DrawnBody[], lines: [] as DrawnLines[] };
  for (const [i, difference] of (differences ?? []).entries())
    for (const [key, look, colour] of VERSIONS) {
      const version = difference[key];
      if (!version) continue;
      const id = `compared ${key} ${i}`;
      const { mesh, lines } = version;
      if (mesh) drawing.bodies.push(plainBody(id, mesh, { look, colour }));
      else if (lines.length > 0) drawing.lines.push({ id, lines, picked: key === "now" });
    }
  return drawing;
}

const VERSIONS = [
  ["was", "clear", null],
  ["now", "body", "#c9a14a"],
] as const;

/** The places to mark: where both lie furthest apart. */
export const comparedPlaces = (comparing: Comparing | null) =>
  (comparing?.differences ?? []).flatMap(({ furthest }) => (furthest && furthest.distance > 0 ? furthest.at : []));
