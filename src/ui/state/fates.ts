import type { FateRule } from "@/core/seam";
import type { PieceView } from "@/engine/contract";

export interface WantedFate {
  fate: "keep" | "scrap" | "group";
  group?: string;
}

const same = (a: WantedFate, b: WantedFate) => a.fate === b.fate && (a.fate !== "group" || a.group === b.group);

/**
 * The rules that make pieces have these fates: one for each that differs from what the preset says. All are written
 * anew from the pieces as they are, so that each remembers its piece as it is now.
 */
export function rulesFor(pieces: readonly PieceView[], wanted: (piece: PieceView) => WantedFate): FateRule[] {
  return pieces.flatMap((piece) => {
    const want = wanted(piece);
    if (same(want, piece.preset)) return [];
    return [
      {
        piece: { kind: piece.kind, faces: piece.faces, at: piece.centre as [number, number, number] },
        fate: want.fate,
        ...(want.fate === "group" ? { group: want.group ?? "Group 1" } : {}),
      },
    ];
  });
}

/** Keep becomes scrap and the other way round; groups stay. */
export function inverted(piece: PieceView): WantedFate {
  if (piece.fate.fate === "keep") return { fate: "scrap" };
  if (piece.fate.fate === "scrap") return { fate: "keep" };
  return piece.fate;
}
