import type { Body } from "../../items";
import { type Fusion, freeShape } from "../../kernel";
import { divideAll, type Joined, joinPieces } from "../../seam";
import type { StepContext } from "../evaluation";

/** What a group of pieces is made into, and whether it holds the body that the group goes to. */
export interface Lump extends Joined {
  holds: boolean;
}

/**
 * Joins what a group of pieces is with the body that it goes to, where there is one, and with what was cut from other stock: only pieces
 * that were cut from one another are joined as they are (`joinPieces`).
 * @param lumps belong to the result, or are freed. @returns the lumps that hold a piece: what does not touch stays by itself.
 */
export function united(lumps: readonly Joined[], to: Body | null, context: StepContext): Lump[] {
  const apart = lumps.map((lump): Lump => ({ ...lump, holds: false }));
  if (lumps.some(({ form }) => form !== "solid")) return apart;
  if (!to && (lumps.length < 2 || new Set(lumps.map(fusionOf)).size < 2)) return apart;
  const own = lumps.map((lump, i): Body => {
    const { shape, faces } = lump;
    return { id: `lump:${i}`, kind: "solid", shape, faces, hint: { text: "" } };
  });
  const division = divideAll([...(to ? [to] : []), ...own], context);
  try {
    const made = joinPieces(division, division.pieces).map((joined): Lump => {
      const ids = new Set(joined.pieces.flatMap(({ stock }) => stock));
      const pieces = lumps.flatMap((lump, i) => (ids.has(own[i]!.id) ? lump.pieces : []));
      return { ...joined, pieces, holds: to !== null && ids.has(to.id) };
    });
    for (const { shape } of lumps) freeShape(shape);
    // The body by itself, where nothing of the group touches it, stays what it was.
    return made.filter(({ shape, pieces }) => {
      if (pieces.length === 0) freeShape(shape);
      return pieces.length > 0;
    });
  } finally {
    division.free();
  }
}

const fusionOf = ({ pieces }: Joined): Fusion => pieces[0]!.fusion;
