import type { PieceView } from "@/engine/contract";

/** Pieces that are picked to be decided on together, by key. */
export type PiecePicks = ReadonlySet<string>;

export function toggled(picks: PiecePicks, key: string): Set<string> {
  const next = new Set(picks);
  if (!next.delete(key)) next.add(key);
  return next;
}

/** All from one piece to another as they lie in the tray, added to what is picked; that one alone where the first is not there. */
export function pickedTo(picks: PiecePicks, order: readonly string[], from: string | null, to: string): Set<string> {
  const [start, end] = [from === null ? -1 : order.indexOf(from), order.indexOf(to)];
  const range = start < 0 ? [to] : order.slice(Math.min(start, end), Math.max(start, end) + 1);
  return new Set([...picks, ...range]);
}

/** The first name of a group that no piece has yet. */
export function freeGroup(groups: readonly string[]): string {
  for (let number = 1; ; number++) if (!groups.includes(`Group ${number}`)) return `Group ${number}`;
}

const known = new WeakMap<readonly PieceView[], Map<string, ReadonlySet<number>>>();

/** The pieces, by index, that were cut from one; none for what is no piece. */
export function neighboursOf(pieces: readonly PieceView[] | null | undefined, key: string | null): ReadonlySet<number> {
  if (!pieces || key === null) return NONE;
  const all = known.get(pieces) ?? new Map(pieces.map((piece) => [piece.key, new Set(piece.neighbours)]));
  known.set(pieces, all);
  return all.get(key) ?? NONE;
}

const NONE: ReadonlySet<number> = new Set();
