import { away, before, isCutterBound, type Mark, type Spot, type Traced, type Twin } from "./mark";

/** Why a piece cannot be told: what happened to it, as far as can be seen. */
export type Doubt = "gone" | "divided" | "merged" | "alike" | "changed";

/**
 * One answer (`shifted` where whole faces came over to it from pieces on other sides, or went to them), or the reason why there is none with the pieces that it may be. */
export type Outcome =
  | { how: "found"; piece: number; shifted: boolean }
  | { how: "unclear"; why: Doubt; candidates: number[] };

const found = (piece: number, shifted = false): Outcome => ({ how: "found", piece, shifted });
const unclear = (why: Doubt, candidates: readonly number[]): Outcome => ({
  how: "unclear",
  why,
  candidates: [...candidates],
});

/**
 * Finds the piece that a mark was taken of. What decides is what bounds it; place decides only between pieces with the very
 * same bounds. Being the only one left of a kind is no proof, being the nearest neither: wherever two answers are possible
 * there is none.
 *
 * @param pieces all pieces of the division, kept or not. @param alike the places of those of the piece's kind.
 */
export function findMarked(mark: Mark, pieces: readonly Traced[], alike: readonly number[]): Outcome {
  if (alike.length === 0) return unclear("gone", []);
  const { own, others } = mark;
  const holds = (piece: number, bound: string) => pieces[piece]!.bounds.has(bound);
  const isOther = (piece: number) => others.some((bound) => holds(piece, bound));
  const living = own.filter((bound) => pieces.some(({ bounds }) => bounds.has(bound)));
  const holders = alike.filter((piece) => living.some((bound) => holds(piece, bound)));

  if (living.length > 0) {
    // What bounded it alone bounds nothing of its kind any more: it went to another side.
    if (holders.length === 0) return unclear("gone", withoutOthers());
    if (holders.length > 1) return unclear("divided", holders);
    const [piece] = holders as [number];
    if (isOther(piece)) return unclear("merged", [piece]);
    return settled(piece);
  }
  if (own.length > 0) {
    // All that bounded it alone is gone from the model: only a piece that has nothing it had not can be what is left of it.
    const left = withoutOthers().filter((piece) => extras(mark, pieces[piece]!) === 0);
    return left.length === 1 && mark.of === 1 && alike.length === 1
      ? found(left[0]!)
      : unclear(left.length > 0 ? "changed" : "gone", withoutOthers());
  }
  const equal = alike.filter((piece) => isEqual(mark, pieces[piece]!));
  if (mark.twin) return amongTwins(mark, mark.twin, pieces, equal.length > 0 ? equal : [], withoutOthers());
  if (equal.length > 1) return unclear("divided", equal);
  if (equal.length === 1) return settled(equal[0]!);
  // The only one of its kind, then and now, with most of what bounded it.
  const [only] = alike;
  if (mark.of === 1 && alike.length === 1 && 2 * common(mark, pieces[only!]!) >= mark.shared.length)
    return found(only!, hasShifted(only!));
  return unclear(withoutOthers().length > 0 ? "changed" : "gone", withoutOthers());

  function withoutOthers(): number[] {
    return alike.filter((piece) => !isOther(piece));
  }

  /** A piece that has what told this one apart, unless another may have been cut from it or joined to it. */
  function settled(piece: number): Outcome {
    const fresh = alike.filter(
      (other) => other !== piece && !isOther(other) && cutFrom(mark, pieces[other]!, pieces[piece]!),
    );
    // Siblings that had no bounds of their own look like that, too.
    const silent = mark.of - 1 - mark.telling;
    if (fresh.length > silent) return unclear("divided", [piece, ...fresh]);
    // One that could not be told from it by a bound of its own is there no more: it may have run together with this one.
    if (fresh.length < silent && extras(mark, pieces[piece]!) > 0) return unclear("merged", [piece, ...fresh]);
    return found(piece, hasShifted(piece));
  }

  function hasShifted(piece: number): boolean {
    const has = (bound: string) => holds(piece, bound);
    const alone = (bound: string) => pieces.every((other, i) => i === piece || !other.bounds.has(bound));
    return (
      living.some((bound) => !isCutterBound(bound) && !has(bound)) ||
      mark.beyond.some((bound) => has(bound) && alone(bound))
    );
  }
}

/** How many of a piece's bounds a mark did not have. */
function extras(mark: Mark, { bounds }: Traced): number {
  return bounds.size - common(mark, { bounds }) - (mark.total - mark.own.length - mark.shared.length);
}

function common({ own, shared }: Mark, { bounds }: Pick<Traced, "bounds">): number {
  return [...own, ...shared].filter((bound) => bounds.has(bound)).length;
}

function isEqual(mark: Mark, { bounds }: Traced): boolean {
  return bounds.size === mark.total && common(mark, { bounds }) === mark.own.length + mark.shared.length;
}

/**
 * Whether a piece may have been divided off one that had a mark, of which `rest` is left: nothing bounds it that did not
 * bound that; or, where what is left has new bounds itself, most of the stock round it did.
 */
function cutFrom(mark: Mark, { bounds }: Traced, rest: Traced): boolean {
  const had = new Set([...mark.own, ...mark.shared]);
  const listed = had.size === mark.total;
  if (listed && [...bounds].every((bound) => had.has(bound))) return true;
  if (isEqual(mark, rest)) return false;
  const stock = [...bounds].filter((bound) => !isCutterBound(bound));
  return !listed || 2 * stock.filter((bound) => had.has(bound)).length >= stock.length;
}

/** How much nearer than the gap between twins a piece has to be to where it was, for its place to tell. */
const NEAR = 0.35;

/**
 * Which of several pieces with the same bounds it is. They are looked at from each body that moves by itself: all have to
 * say the same. Then either nothing about it has changed, or there are as many in the same order.
 */
function amongTwins(
  mark: Mark,
  twin: Twin,
  pieces: readonly Traced[],
  equal: readonly number[],
  candidates: readonly number[],
): Outcome {
  if (equal.length === 0) return unclear(candidates.length > 0 ? "changed" : "gone", candidates);
  const spots = equal.map((piece) => pieces[piece]!.spot());
  if (spots.some((spot) => spot === null) || twin.spots.length === 0) return unclear("alike", equal);
  const known = spots as Spot[];
  let choice: number | null = null;
  let exact = false;
  for (const { tag, at } of twin.spots) {
    const places = known.map(({ seen }) => seen.find(({ tags }) => tags.includes(tag))?.at);
    if (places.some((place) => place === undefined)) return unclear("alike", equal);
    const order = places.map((place, i) => ({ i, off: away(place!, at) })).sort((a, b) => a.off - b.off);
    const [best, next] = order;
    if (best!.off > NEAR * Math.min(twin.gap, next?.off ?? twin.gap)) return unclear("alike", equal);
    if (choice !== null && choice !== best!.i) return unclear("alike", equal);
    choice = best!.i;
    if (best!.off < 0.05 && Math.abs(known[best!.i]!.size - twin.size) <= 1e-5 * twin.size) exact = true;
  }
  const own = known[choice!]!.seen[0]!.at;
  const rest = known.filter((_, i) => i !== choice).map(({ seen }) => seen[0]!.at);
  const rank = 1 + rest.filter((other) => before(other, own)).length;
  const sameRow = equal.length === twin.count && rank === twin.rank;
  const gap = rest.length > 0 ? Math.min(...rest.map((other) => away(other, own))) : null;
  const sameGap = gap !== null && Math.abs(gap - twin.gap) < 0.05;
  return sameRow || (exact && sameGap) ? found(equal[choice!]!) : unclear("alike", equal);
}
