import { distance, surfaceCentre } from "../kernel";
import { UNMADE } from "../tolerance";
import { type Doubt, findMarked, type Outcome } from "./find";
import { readMark } from "./mark";
import type { FateRule, Piece, PieceRef } from "./piece";
import type { PresetFate } from "./presets";

/**
 * A decision that found no piece of its own, and the pieces that it may be about, by index. One that found a piece which gave
 * or took whole faces (`shifted`) holds; it is to be looked at.
 */
export interface Question {
  /** The rule's place in the list. */
  rule: number;
  why: Doubt | "clash" | "shifted";
  candidates: number[];
}

export interface Settled {
  /** By the piece's index. */
  fates: PresetFate[];
  /** Decisions that could not be placed with certainty: they do nothing until they are answered. */
  questions: Question[];
  /** Pieces that a rule decided on. */
  decided: ReadonlySet<number>;
}

/**
 * Gives every piece its fate: the preset's, unless a rule decides otherwise. A rule finds its piece by membership and
 * sides, and by what bounds it (`findMarked`). What stays unclear is asked, never guessed.
 */
export function settleFates(
  pieces: readonly Piece[],
  preset: (piece: Piece) => PresetFate,
  rules: readonly FateRule[],
): Settled {
  const fates = pieces.map(preset);
  const questions: Question[] = [];
  const taken = new Map<number, FateRule[]>();
  rules.forEach((rule, i) => {
    const alike = pieces.flatMap((_, index) => (pieces[index]!.kinds.includes(rule.piece.kind) ? [index] : []));
    const outcome = findRef(rule.piece, pieces, alike);
    if (outcome.how === "unclear") {
      questions.push({ rule: i, why: outcome.why, candidates: outcome.candidates });
      return;
    }
    if (outcome.shifted) questions.push({ rule: i, why: "shifted", candidates: [outcome.piece] });
    const before = taken.get(outcome.piece);
    if (before) before.push(rule);
    else taken.set(outcome.piece, [rule]);
  });
  for (const [piece, [first, ...more]] of taken) {
    const clash = more.filter((rule) => rule.fate !== first!.fate || rule.group !== first!.group);
    // Two decisions on one piece: neither is taken for the other.
    if (clash.length > 0) {
      for (const rule of [first!, ...clash])
        questions.push({ rule: rules.indexOf(rule), why: "clash", candidates: [piece] });
      continue;
    }
    const { fate, group } = first!;
    fates[piece] = { fate, ...(fate === "group" ? { group: group ?? "group" } : {}) };
  }
  return { fates, questions, decided: new Set(taken.keys()) };
}

/** How a decision remembers a piece as it is now. */
export function pieceRefOf(piece: Piece): PieceRef {
  return {
    kind: piece.kind,
    faces: [...new Set(piece.faces)],
    at: [...surfaceCentre(piece.shape)],
    mark: piece.mark(),
  };
}

function findRef(ref: PieceRef, pieces: readonly Piece[], alike: readonly number[]): Outcome {
  if (alike.length === 0) return { how: "unclear", why: "gone", candidates: [] };
  const mark = ref.mark === undefined ? null : readMark(ref.mark);
  if (mark) return findMarked(mark, pieces, alike);
  if (ref.faces.length > 0) return findByFaces(ref, pieces, alike);
  // Written by hand, as the piece that is so: there has to be one.
  return alike.length === 1
    ? { how: "found", piece: alike[0]!, shifted: false }
    : { how: "unclear", why: "alike", candidates: [...alike] };
}

/**
 * Finds a piece of which only the names of its faces are known, and not what its siblings had: it has to have kept them, and
 * gained none that the same steps had made already.
 */
function findByFaces(ref: PieceRef, pieces: readonly Piece[], alike: readonly number[]): Outcome {
  const had = new Set(ref.faces);
  const makers = new Set(ref.faces.map(makerOf));
  const everywhere = new Set(pieces.flatMap(({ faces }) => faces));
  const gone = ref.faces.some((name) => !everywhere.has(name));
  const fits = alike.map((index) => {
    const own = new Set(pieces[index]!.faces);
    const lost = ref.faces.some((name) => everywhere.has(name) && !own.has(name));
    const gained = [...own].some((name) => !had.has(name) && makers.has(makerOf(name)));
    return { index, lost, gained };
  });
  const whole = fits.filter(({ lost, gained }) => !lost && !gained && !gone);
  if (whole.length === 1) return { how: "found", piece: whole[0]!.index, shifted: false };
  if (whole.length > 1) {
    // The very same place is proof; being near it is none.
    const still = ref.at
      ? whole.filter(({ index }) => distance(surfaceCentre(pieces[index]!.shape), ref.at!) < UNMADE)
      : [];
    return still.length === 1
      ? { how: "found", piece: still[0]!.index, shifted: false }
      : { how: "unclear", why: "alike", candidates: whole.map(({ index }) => index) };
  }
  const [only, ...others] = fits;
  if (others.length === 0 && only && !only.gained && (!only.lost || !gone))
    return { how: "found", piece: only.index, shifted: false };
  const near = fits.filter(({ gained }) => !gained);
  return { how: "unclear", why: near.length > 0 ? "changed" : "gone", candidates: near.map(({ index }) => index) };
}

const makerOf = (name: string) => name.slice(0, name.indexOf(":"));
