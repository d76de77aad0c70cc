import { groupedBy } from "../groups";
import type { Fusion } from "../kernel";
import type { Piece } from "./piece";

type Cut = Pick<Piece, "form" | "fusion" | "uses">;

/**
 * Where pieces meet that were cut from one another: of each its keys, of which two have one in common where they share a face
 * (solids) or an edge (sheets). Stock bodies are divided each by itself, so pieces of two of them do not meet.
 */
function meetings(pieces: readonly Cut[]): string[][] {
  const fusions = new Map<Fusion, number>();
  return pieces.map(({ form, fusion, uses }) => {
    if (!fusions.has(fusion)) fusions.set(fusion, fusions.size);
    const marks =
      form === "solid"
        ? uses.map(({ face }) => face)
        : uses.flatMap(({ face }) => fusion.faceEdges(face).map(({ edge }) => edge));
    return marks.map((mark) => `${fusions.get(fusion)}:${form}:${mark}`);
  });
}

/** The pieces that share a place, by that place. */
function byMeeting(pieces: readonly Cut[]): Map<string, number[]> {
  const there = new Map<string, number[]>();
  for (const [i, keys] of meetings(pieces).entries())
    for (const key of new Set(keys)) {
      const list = there.get(key);
      if (list) list.push(i);
      else there.set(key, [i]);
    }
  return there;
}

/** Which pieces hang together: each group shares faces (solids) or edges (sheets), by place. */
export const hangingTogether = (pieces: readonly Cut[]): number[][] => groupedBy(meetings(pieces));

/** Of each piece, by place, those that were cut from it: they share a face with it, of sheets an edge. */
export function neighboursOf(pieces: readonly Cut[]): number[][] {
  const near = pieces.map(() => new Set<number>());
  for (const list of byMeeting(pieces).values())
    for (const i of list) for (const j of list) if (i !== j) near[i]!.add(j);
  return near.map((one) => [...one].sort((a, b) => a - b));
}
