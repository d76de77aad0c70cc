import { distance, surfaceCentre } from "../kernel";
import { UNMADE } from "../tolerance";
import { type Doubt, findMarked, type Outcome } from "./find";
import { readMark } from "./mark";
import { type FateRule, type Piece, type PieceRef, readKind } from "./piece";
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
  if (alike.length === 0) return findAcross(ref, pieces);
  return findAmong(ref, pieces, alike);
}

/**
 * Finds a piece of which nothing has the kind any more, since the step has other cutters now. Those that it lay beside say where it may be. New
 * ones that do not come near it change nothing; where they bound what may be the piece, or one that it lay beside is gone, it is
 * asked about.
 */
function findAcross(ref: PieceRef, pieces: readonly Piece[]): Outcome {
  const then = readKind(ref.kind);
  const kinds = pieces.map((piece) => piece.kinds.map(readKind));
  const there = new Set(kinds.flat().flatMap(({ sides }) => [...sides.keys()]));
  const kept = [...then.sides].filter(([id]) => there.has(id));
  const alike = pieces.flatMap((_, i) =>
    kinds[i]!.some(({ stock, sides }) => stock === then.stock && kept.every(([id, side]) => sides.get(id) === side))
      ? [i]
      : [],
  );
  const unclear = (why: Doubt): Outcome => ({ how: "unclear", why, candidates: alike });
  if (alike.length === 0) return unclear("gone");
  if (kept.length < then.sides.size) return unclear(alike.length > 1 ? "changed" : "merged");
  const untouched = alike.every((i) => {
    const by = pieces[i]!.cutBy();
    return by !== null && [...by].every((id) => then.sides.has(id));
  });
  return untouched ? findAmong(ref, pieces, alike) : unclear("divided");
}

/** @param alike the places of the pieces of its kind. */
function findAmong(ref: PieceRef, pieces: readonly Piece[], alike: readonly number[]): Outcome {
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
