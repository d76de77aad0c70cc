import type { Vec3 } from "../kernel";
import { amongOf, away, isCutterBound, type Mark, type Spot, sameBounds, type Traced, type Twin } from "./mark";

/** Why a piece cannot be told: what happened to it, as far as can be seen. */
export type Doubt = "gone" | "divided" | "merged" | "alike" | "changed";

/**
 * One answer (`shifted` where whole faces came over to it from pieces on other sides, or went to them), or the reason
 * why there is none with the pieces that it may be.
 */
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
  const alive = own.filter((bound) => pieces.some(({ bounds }) => bounds.has(bound)));
  // A cutter's face may come to bound siblings that it did not bound before: the stock's own faces say more.
  const ofStock = alive.filter((bound) => !isCutterBound(bound));
  const living = ofStock.length > 0 ? ofStock : alive;
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
      ? atHome(left[0]!, false)
      : unclear(left.length > 0 ? "changed" : "gone", withoutOthers());
  }
  const equal = alike.filter((piece) => isEqual(mark, pieces[piece]!));
  const bySpans = atItsSpans(mark, pieces, alike, isOther);
  if (bySpans) return bySpans;
  if (mark.twin && mark.twin.count > 1) {
    const outcome = amongTwins(mark.twin, pieces, equal, alike, withoutOthers());
    return outcome.how === "found" ? atHome(outcome.piece, outcome.shifted) : outcome;
  }
  if (equal.length > 1) return unclear("divided", equal);
  if (equal.length === 1) return settled(equal[0]!);
  // The only one of its kind, then and now, with most of what bounded it.
  const [only] = alike;
  if (mark.of === 1 && alike.length === 1 && 2 * common(mark, pieces[only!]!) >= mark.shared.length)
    return atHome(only!, hasShifted(only!));
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
    if (mark.twin && contradicted(mark.twin, pieces, alike, piece)) return unclear("alike", [piece, ...fresh]);
    return atHome(piece, hasShifted(piece), fresh);
  }

  /**
   * A piece that is the one by its faces or its place, unless it lay alone at spans of drawn curves and lies at none of them
   * now, where its kind lies at spans at all: then another part of the curve may have come to its faces.
   */
  function atHome(piece: number, shifted: boolean, fresh: readonly number[] = []): Outcome {
    const left =
      mark.at.length > 0 && !liesAt(pieces[piece]!, mark.at) && alike.some((other) => pieces[other]!.spans().size > 0);
    return left ? unclear("changed", [piece, ...fresh]) : found(piece, shifted);
  }

  function hasShifted(piece: number): boolean {
    const has = (bound: string) => holds(piece, bound);
    const alone = (bound: string) => pieces.every((other, i) => i === piece || !other.bounds.has(bound));
    return (
      living.some((bound) => !isCutterBound(bound) && !has(bound)) ||
      !sameCutters(mark, pieces[piece]!) ||
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

/** Whether the same faces of cutters bound a piece as when its mark was taken. */
function sameCutters(mark: Mark, { bounds }: Traced): boolean {
  const had = [...mark.own, ...mark.shared];
  if (had.length < mark.total) return true;
  const cutters = [...bounds].filter(isCutterBound);
  const then = had.filter(isCutterBound);
  return cutters.length === then.length && then.every((bound) => bounds.has(bound));
}

/** How much nearer than the gap between peers a piece has to be to where it was, for its place to tell. */
const NEAR = 0.35;
/** How much nearer than any of its twins, at least. */
const FAR = 0.7;
/** mm that numbers in a mark may be off by their rounding, with room to spare. */
const STILL = 0.05;
/** Of its own: how far the size of a piece that stayed may have changed by being worked out anew. */
const AS_LARGE = 1e-5;

/** The spots of some pieces, seen from one body; null when one is not at hand. */
function seenFrom(tag: string, pieces: readonly Traced[], which: readonly number[]): Vec3[] | null {
  const places = which.map((piece) => pieces[piece]!.spot()?.seen.find(({ tags }) => tags.includes(tag))?.at);
  return places.every((place) => place !== undefined) ? places : null;
}

/**
 * Whether, seen from a body that moves by itself, another piece may be the one: it lies where the piece was, and the chosen
 * one does not. Between pieces with the same bounds the chosen one has to be the nearest by far.
 */
function contradicted(twin: Twin, pieces: readonly Traced[], alike: readonly number[], choice: number): boolean {
  return twin.spots.some(({ tag, at }) => {
    const places = seenFrom(tag, pieces, alike);
    if (!places) return twin.count > 1;
    const own = away(places[alike.indexOf(choice)]!, at);
    // Gone as far as half-way to the next: that may be another which has come to its place.
    if (own > twin.gap / 2) return true;
    return places.some((place, i) => {
      if (alike[i] === choice) return false;
      const off = away(place, at);
      const twins = twin.count > 1 && sameBounds(pieces[alike[i]!]!.bounds, pieces[choice]!.bounds);
      return twins ? own > STILL && off < own / FAR : off < Math.min(own, NEAR * twin.gap);
    });
  });
}

/**
 * Which of several pieces with the same bounds it is. They are looked at from each body that moves by itself, and none may
 * say another. Either nothing about it has changed as seen from one of them; or there are as many as before in the same
 * arrangement, and it is the nearest one, too.
 */
function amongTwins(
  twin: Twin,
  pieces: readonly Traced[],
  equal: readonly number[],
  alike: readonly number[],
  candidates: readonly number[],
): Outcome {
  if (equal.length === 0) return unclear(candidates.length > 0 ? "changed" : "gone", candidates);
  const row = equal.map((piece) => pieces[piece]!.spot());
  if (row.some((spot) => spot === null) || twin.spots.length === 0) return unclear("alike", equal);
  const spots = row as Spot[];
  const choice = stillThere(twin, spots) ?? (equal.length === twin.count ? inTheRow(twin, spots) : null);
  if (choice === null || contradicted(twin, pieces, alike, equal[choice]!)) return unclear("alike", equal);
  return found(equal[choice]!);
}

const liesAt = (piece: Traced, spans: readonly string[]) => spans.some((span) => piece.spans().has(span));

/**
 * The piece that lies at the spans of drawn curves at which it alone of its kind did: names say more than places. Null
 * where there were none, or none is left.
 */
function atItsSpans(
  { at, past, of }: Mark,
  pieces: readonly Traced[],
  alike: readonly number[],
  isOther: (piece: number) => boolean,
): Outcome | null {
  const lies = (piece: number, spans: readonly string[]) => liesAt(pieces[piece]!, spans);
  const holders = at.length > 0 ? alike.filter((piece) => lies(piece, at)) : [];
  if (holders.length === 0) return null;
  if (holders.length > 1) return unclear("divided", holders);
  if (lies(holders[0]!, past)) return unclear("merged", holders);
  if (!isOther(holders[0]!)) return found(holders[0]!);
  // What another had alone bounds it now. That one has not run together with it where each had spans of its own.
  return past.length >= of - 1 ? found(holders[0]!, true) : unclear("changed", holders);
}

/** The one that is where it was, as large and as far from the next as it was, seen from one body at least. */
function stillThere({ size, next, spots }: Twin, row: readonly Spot[]): number | null {
  const still = row.flatMap((spot, i) => {
    const seen = spots.some(({ tag, at }) => {
      const places = row.map((one) => one.seen.find(({ tags }) => tags.includes(tag))?.at);
      const now = places[i];
      return (
        now && away(now, at) < STILL && places.every((place, j) => j === i || !place || away(place, now) > 2 * STILL)
      );
    });
    const others = row.filter((_, j) => j !== i).map((other) => away(other.seen[0]!.at, spot.seen[0]!.at));
    const asFar = others.length > 0 && Math.abs(Math.min(...others) - next) < STILL;
    return seen && asFar && Math.abs(spot.size - size) <= AS_LARGE * size ? [i] : [];
  });
  return still.length === 1 ? still[0]! : null;
}

/** The one that lies among as many as it did, seen from all bodies, and is nearest to where it was, seen from one at least. */
function inTheRow({ spots }: Twin, row: readonly Spot[]): number | null {
  const arranged = amongOf(row);
  let choice: number | null = null;
  let nearest = false;
  for (const { tag, at, among } of spots) {
    const k = row[0]!.seen.findIndex(({ tags }) => tags.includes(tag));
    if (k < 0) return null;
    const places = row.map(({ seen }) => seen[k]!.at);
    // Seen from here they all lie in one place.
    if (places.every((place) => away(place, places[0]!) < 2 * STILL)) continue;
    const offs = arranged[k]!.map((place) => away(place, among));
    const best = offs.indexOf(Math.min(...offs));
    const apart = arranged[k]!.map((place) => away(place, arranged[k]![best]!)).filter((_, i) => i !== best);
    if (offs[best]! > NEAR * Math.min(...apart)) return null;
    if (choice !== null && choice !== best) return null;
    choice = best;
    const gaps = places.map((place) => away(place, at));
    if (gaps.indexOf(Math.min(...gaps)) === best) nearest = true;
  }
  return nearest ? choice : null;
}
