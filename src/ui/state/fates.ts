import type { Trouble } from "@/core/errors";
import type { Step } from "@/core/job";
import type { FateRule } from "@/core/seam";
import { seenOf } from "@/core/seam/seen";
import type { PieceView } from "@/engine/contract";

export interface WantedFate {
  fate: "keep" | "scrap" | "group";
  group?: string;
}

const same = (a: WantedFate, b: WantedFate) => a.fate === b.fate && (a.fate !== "group" || a.group === b.group);

/**
 * The rules that make pieces have these fates: one for each that differs from what the preset says, or that was decided
 * on before. They are written anew from the pieces as they are, so that each remembers its piece as it is now. Decisions that
 * still wait for an answer stay as they are.
 * @param open the decisions that found no piece.
 */
export function rulesFor(
  pieces: readonly PieceView[],
  wanted: (piece: PieceView) => WantedFate,
  open: readonly FateRule[] = [],
): FateRule[] {
  const rules = pieces.flatMap((piece) => {
    const want = wanted(piece);
    if (same(want, piece.preset) && !piece.decided) return [];
    return [
      {
        piece: {
          kind: piece.kind,
          faces: [...new Set(piece.faces)],
          at: piece.centre as [number, number, number],
          mark: piece.mark,
        },
        fate: want.fate,
        ...(want.fate === "group" ? { group: want.group ?? "Group 1" } : {}),
      },
    ];
  });
  return [...rules, ...open];
}

/** The decisions that found no piece, as the warnings of their step say. */
export function openRules(rules: readonly FateRule[], warnings: readonly Trouble[]): FateRule[] {
  const asked = new Set(warnings.flatMap(({ code, entry }) => (code === "check-pieces" ? (entry ?? []) : [])));
  return rules.filter((_, i) => asked.has(i));
}

/** A step as it is kept: where somebody decided on pieces of it, it remembers which there were. */
export function withSeen(step: Step, pieces: readonly PieceView[] | null): Step {
  if (step.type !== "seam" || !pieces) return step;
  const decided = [step.fates, step.rules].some((list) => Array.isArray(list) && list.length > 0);
  return { ...step, seen: decided ? seenOf(pieces.map(({ kind }) => kind)) : [] };
}

/** Keep becomes scrap and the other way round; groups stay. */
export function inverted(piece: PieceView): WantedFate {
  if (piece.fate.fate === "keep") return { fate: "scrap" };
  if (piece.fate.fate === "scrap") return { fate: "keep" };
  return piece.fate;
}
