import { distance, surfaceCentre } from "../kernel";
import { type FateRule, kindOf, type Piece } from "./piece";
import type { PresetFate } from "./presets";

export interface Settled {
  /** By the piece's index. */
  fates: PresetFate[];
  /** Sentences for a person: which decisions could not be placed with certainty. */
  warnings: string[];
}

/**
 * Gives every piece its fate: the preset's, unless a rule decides otherwise. A rule finds its piece by membership and
 * sides; where several share those, by the faces around it; where those tie, by its place. What stays unclear is said,
 * never guessed.
 *
 * @param earlier the ids that an item had before it was changed: a rule may know it by one of them.
 */
export function settleFates(
  pieces: readonly Piece[],
  preset: (piece: Piece) => PresetFate,
  rules: readonly FateRule[],
  earlier: (id: string) => readonly string[] = () => [],
): Settled {
  const fates = pieces.map(preset);
  const warnings: string[] = [];
  const taken = new Map<number, FateRule>();
  for (const rule of rules) {
    const found = findPiece(pieces, rule, earlier);
    if (found === "none") {
      warnings.push("A piece whose fate you had set is no longer made. Check the pieces.");
      continue;
    }
    if (found === "unclear") {
      warnings.push("A piece whose fate you had set cannot be told from others any more. Check the pieces.");
      continue;
    }
    const before = taken.get(found);
    if (before && (before.fate !== rule.fate || before.group !== rule.group)) {
      warnings.push("Two fates that you had set now fall on one piece. Check the pieces.");
      continue;
    }
    taken.set(found, rule);
    fates[found] = { fate: rule.fate, ...(rule.fate === "group" ? { group: rule.group ?? "group" } : {}) };
  }
  return { fates, warnings: [...new Set(warnings)] };
}

function findPiece(
  pieces: readonly Piece[],
  { piece: ref }: FateRule,
  earlier: (id: string) => readonly string[],
): number | "none" | "unclear" {
  const alike = pieces.filter((piece) => piece.kind === ref.kind || kindBefore(piece, ref.kind, earlier) === ref.kind);
  if (alike.length === 0) return "none";
  if (alike.length === 1) return alike[0]!.index;
  const scores = alike
    .map((piece) => ({ piece, score: overlap(piece.faces, ref.faces) }))
    .sort((a, b) => b.score - a.score);
  const best = scores[0]!;
  const tied = scores.filter((entry) => best.score - entry.score < 1e-9).map((entry) => entry.piece);
  if (tied.length === 1) return best.score > 0 ? best.piece.index : "unclear";
  if (!ref.at) return "unclear";
  const near = tied
    .map((piece) => ({ piece, gap: distance(surfaceCentre(piece.shape), ref.at!) }))
    .sort((a, b) => a.gap - b.gap);
  // Twins that only their place tells apart: the nearest, if it is clearly the nearest.
  return near[0]!.gap < 0.5 * near[1]!.gap ? near[0]!.piece.index : "unclear";
}

/** A piece's kind as a rule would have put it that was made when items still had other ids: those that it mentions. */
function kindBefore({ sides, stock }: Piece, kind: string, earlier: (id: string) => readonly string[]): string {
  const mentioned = (id: string) =>
    [...kind.matchAll(/[&= ]|$/g)].some(({ index }) => kind.slice(0, index).endsWith(id));
  const then = (id: string) => earlier(id).find(mentioned) ?? id;
  return kindOf(Object.fromEntries(Object.entries(sides).map(([id, side]) => [then(id), side])), stock.map(then));
}

/** How much two sets of face names agree, 0 to 1. */
function overlap(a: readonly string[], b: readonly string[]): number {
  const left = new Set(a);
  const right = new Set(b);
  const shared = [...left].filter((name) => right.has(name)).length;
  const all = left.size + right.size - shared;
  return all === 0 ? 0 : shared / all;
}
