import { keyOf, type Piece } from "./piece";

/**
 * What pieces a step had when somebody last decided on them, for the step to remember: each kind, and how many of it there were where
 * there was more than one (`3f9a02bc*4`).
 */
export function seenOf(kinds: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const kind of kinds) counts.set(keyOf(kind), (counts.get(keyOf(kind)) ?? 0) + 1);
  return [...counts].map(([key, count]) => (count > 1 ? `${key}*${count}` : key)).sort();
}

/**
 * How many of some pieces there were not when they were last decided on, and which these may be: all of a kind that has become more, since
 * which of them is the new one is not to be told by what they lie in and beside.
 */
export function newAmong<T extends Pick<Piece, "kinds">>(
  pieces: readonly T[],
  seen: readonly string[],
): { count: number; among: T[] } {
  const counts = new Map(
    seen.map((entry) => {
      const [key, count = "1"] = entry.split("*") as [string, string?];
      return [key, Number(count)] as const;
    }),
  );
  const alike = new Map<string, T[]>();
  for (const piece of pieces) alike.set(piece.kinds[0]!, [...(alike.get(piece.kinds[0]!) ?? []), piece]);
  const grown = [...alike.values()].map((list) => {
    const before = Math.max(0, ...list[0]!.kinds.map((kind) => counts.get(keyOf(kind)) ?? 0));
    return { list, more: list.length - before };
  });
  const fresh = grown.filter(({ more }) => more > 0);
  const among = new Set(fresh.flatMap(({ list }) => list));
  return { count: fresh.reduce((sum, { more }) => sum + more, 0), among: pieces.filter((piece) => among.has(piece)) };
}
