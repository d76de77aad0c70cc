import { findMarked, keyOf, kindWithout, type Outcome, readKind, readMark, type Traced } from "../seam";
import type { Trace } from "../steps/evaluation";

/** What a name of a piece means now: a body by its id, and whether that is to be looked at, or why that cannot be told, with the bodies that it may be. */
export type Meaning =
  | { how: "found"; id: string; doubt: "older" | "shifted" | null }
  /** Told for certain, and no body by decision: it is scrap, or went into a group. */
  | { how: "no-body" }
  | { how: "unclear"; why: Extract<Outcome, { how: "unclear" }>["why"]; candidates: string[] };

/**
 * Finds what a name given before an edit means among what a step made of pieces.
 * @param key the name without the step's part.
 */
export function meaningOf(key: string, traces: readonly Trace[][]): Meaning {
  for (const list of traces) {
    const older = list.find((trace) => trace.once === key && !trace.keys.includes(key));
    if (older) return older.id ? { how: "found", id: older.id, doubt: "older" } : { how: "no-body" };
    const read = parted(key, (kind) => list.some((trace) => trace.keys.includes(kind)));
    if (!read) continue;
    const alike = list.flatMap((trace, i) => (trace.keys.includes(read.kind) ? [i] : []));
    const outcome = read.mark === null ? sole(alike) : found(read.mark, list, alike);
    if (outcome.how === "found") {
      const { id } = list[outcome.piece]!;
      return id ? { how: "found", id, doubt: outcome.shifted ? "shifted" : null } : { how: "no-body" };
    }
    const candidates = outcome.candidates.flatMap((i) => list[i]!.id ?? []);
    return { how: "unclear", why: outcome.why, candidates };
  }
  return traces[0] ? beforeCutters(key, traces[0]) : gone;
}

/** Of how many cutters that may have come since every choice of two is tried; of more each by itself. */
const MANY = 12;

/**
 * What a name means that was given before the step had all its cutters. Where those that came bound none of the pieces that it may mean, it
 * means what it meant; else it cannot be told.
 */
function beforeCutters(key: string, list: readonly Trace[]): Meaning {
  const [first] = list;
  if (!first?.among) return gone;
  const ids = [...readKind(first.among.kind).sides.keys()];
  const choices = [
    ...ids.map((id) => [id]),
    ...(ids.length <= MANY ? ids.flatMap((one, i) => ids.slice(i + 1).map((other) => [one, other])) : []),
  ];
  for (const choice of choices) {
    const came = new Set(choice);
    const keys = list.map(({ among }) => (among ? keyOf(kindWithout(among.kind, came)) : null));
    const read = parted(key, (kind) => keys.includes(kind));
    if (!read) continue;
    const alike = keys.flatMap((own, i) => (own === read.kind ? [i] : []));
    const touched = alike.some((i) => list[i]!.among!.cutBy.some((id) => came.has(id)));
    const candidates = alike.flatMap((i) => list[i]!.id ?? []);
    if (touched) return { how: "unclear", why: "divided", candidates };
    const outcome = read.mark === null ? sole(alike) : found(read.mark, list, alike);
    if (outcome.how === "unclear")
      return { how: "unclear", why: outcome.why, candidates: outcome.candidates.flatMap((i) => list[i]!.id ?? []) };
    const { id } = list[outcome.piece]!;
    return id ? { how: "found", id, doubt: outcome.shifted ? "shifted" : null } : { how: "no-body" };
  }
  return gone;
}

/** A name as a kind that there is and a mark. The kind can hold the id of a body, with a mark of its own. */
function parted(key: string, isKind: (text: string) => boolean): { kind: string; mark: string | null } | null {
  if (isKind(key)) return { kind: key, mark: null };
  for (let at = key.lastIndexOf("~"); at >= 0; at = key.lastIndexOf("~", at - 1)) {
    if (isKind(key.slice(0, at))) return { kind: key.slice(0, at), mark: key.slice(at + 1) };
    if (at === 0) break;
  }
  return null;
}

const gone: Meaning = { how: "unclear", why: "gone", candidates: [] };

/** Named as the only piece of its kind. */
function sole(alike: readonly number[]): Outcome {
  return alike.length === 1
    ? { how: "found", piece: alike[0]!, shifted: false }
    : { how: "unclear", why: "alike", candidates: [...alike] };
}

function found(text: string, list: readonly Trace[], alike: readonly number[]): Outcome {
  const mark = readMark(text);
  if (!mark) return { how: "unclear", why: "changed", candidates: [...alike] };
  const pieces = list.map(
    ({ bounds, spans, spot }): Traced => ({
      bounds: new Set(bounds),
      spans: () => new Set(spans),
      spot: () => spot,
    }),
  );
  return findMarked(mark, pieces, alike);
}
