import { hashBytes } from "../hash";
import { add, dot, scale, sub, type Vec3 } from "../kernel";
import { SAME_WAY } from "../tolerance";
import { once } from "./once";

/**
 * What a piece is known by beside its membership and sides: which faces bound it, which of them bound no other piece, what
 * bounds its siblings and not it, how many of its kind there were; and, where siblings have the very same bounds, where it
 * lies to them. A mark is written into the names of bodies and into decisions, as text.
 */
export interface Mark {
  /** Bounds that no other piece has, hashed. */
  own: string[];
  /** Bounds that others have, too. */
  shared: string[];
  /** Bounds of siblings (pieces of its kind) that it has not: one or more of each. */
  others: string[];
  /** Bounds of stock that one piece of another kind had alone: where it has them now, a face has come over to it. */
  beyond: string[];
  /** How many siblings have bounds of their own. */
  telling: number;
  /** How many pieces of its kind there were, itself among them. */
  of: number;
  /** How many bounds it had in all: more than are listed where they were too many. */
  total: number;
  /** Spans of drawn curves at which it alone of its kind lay. */
  at: string[];
  /** One or more spans at which each of those others lay alone. */
  past: string[];
  /** Where it lies among its peers; null where it had none. */
  twin: Twin | null;
}

/** Where a piece lies among its peers: siblings that the same faces of cutters bound, so that their places may be mixed up. */
export interface Twin {
  /** How many peers had the very same bounds, itself among them: 1 where its bounds tell it. */
  count: number;
  /** mm to the nearest peer, and to the nearest with the very same bounds (0 where there is none). */
  gap: number;
  next: number;
  /** mm³ or mm². */
  size: number;
  /** Where its middle is as seen from what it was made of and cut by, mm. */
  spots: TwinSpot[];
}

export interface TwinSpot {
  tag: string;
  at: Vec3;
  /** The same from the middle of all with the same bounds, in units of how far they are spread. */
  among: Vec3;
}

/** A piece as finding sees it. */
export interface Traced {
  /** Bounds, hashed (`boundOf`). */
  bounds: ReadonlySet<string>;
  /** Spans of drawn curves that it lies at, hashed. Asked for only where bounds do not tell. */
  spans(): ReadonlySet<string>;
  /** Size and place; null when it is not at hand any more. Asked for only where bounds do not tell. */
  spot(): Spot | null;
}

export interface Spot {
  size: number;
  /** Where its middle is, seen from each body that moves by itself, as each of its faces has it: known by all its names. */
  seen: { of: string; tags: readonly string[]; at: Vec3 }[];
}

const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_";
const LENGTH = 5;

const known = new Map<string, string>();

/**
 * Five letters for a bound or an item: 29 bits, so that two of a body's hundreds are the same once in a million jobs. The
 * first letter says whether a cutter put it there.
 */
export function boundOf(text: string, byCutter = false): string {
  const key = `${byCutter ? "|" : ""}${text}`;
  let short = known.get(key);
  if (short === undefined) {
    const hex = hashBytes(new TextEncoder().encode(text));
    let bits = Number.parseInt(hex.slice(0, 8), 16);
    short = LETTERS[(bits & 31) + (byCutter ? 32 : 0)]!;
    bits = Math.floor(bits / 32);
    for (let i = 1; i < LENGTH; i++) {
      short += LETTERS[bits & 63];
      bits = Math.floor(bits / 64);
    }
    if (known.size > 20_000) known.clear();
    known.set(key, short);
  }
  return short;
}

export const isCutterBound = (bound: string): boolean => LETTERS.indexOf(bound[0]!) >= 32;

/** How many bounds a mark lists: in a name, which has to stay short, and in a decision. */
export interface Room {
  own: number;
  shared: number;
  others: number;
  beyond: number;
  /** Of spans that it lay at, and of those that others did. */
  curves: number;
  /** From how many bodies its place is noted. */
  spots: number;
}
export const IN_NAMES: Room = { own: 16, shared: 16, others: 8, beyond: 8, curves: 6, spots: 3 };
export const IN_DECISIONS: Room = { own: 200, shared: 200, others: 100, beyond: 100, curves: 100, spots: 8 };

/**
 * Marks of pieces among all that were made: which of them has a bound is counted once for all.
 * @returns the mark of one, by its place in `pieces` and the places of the pieces of its kind, itself among them.
 */
export function marksAmong(
  pieces: readonly Traced[],
): (piece: number, siblings: readonly number[], room: Room) => Mark {
  const counted = once(() => countBounds(pieces));
  return (piece, siblings, room) => markOf(pieces, counted(), piece, siblings, room);
}

interface Counted {
  /** How many pieces have a bound. */
  having: ReadonlyMap<string, number>;
  /** The bounds of stock that each piece has alone. */
  alone: readonly (readonly string[])[];
}

function countBounds(pieces: readonly Traced[]): Counted {
  const having = new Map<string, number>();
  for (const { bounds } of pieces) for (const bound of bounds) having.set(bound, (having.get(bound) ?? 0) + 1);
  const alone = pieces.map(({ bounds }) =>
    [...bounds].filter((bound) => having.get(bound) === 1 && !isCutterBound(bound)).sort(),
  );
  return { having, alone };
}

function markOf(
  pieces: readonly Traced[],
  { having, alone }: Counted,
  piece: number,
  siblings: readonly number[],
  room: Room,
): Mark {
  const self = pieces[piece]!;
  const all = [...self.bounds].sort();
  const own = all.filter((bound) => having.get(bound) === 1);
  const shared = all.filter((bound) => having.get(bound) !== 1);
  const rest = siblings.filter((i) => i !== piece);
  const telling = rest
    .map((i) => [...pieces[i]!.bounds].filter((bound) => !self.bounds.has(bound)).sort())
    .filter((list) => list.length > 0);
  const kin = new Set(siblings);
  const elsewhere = alone.filter((_, i) => !kin.has(i));
  const twin = twinOf(pieces, piece, rest, room);
  return {
    own: own.slice(0, room.own),
    shared: shared.slice(0, room.shared),
    others: inTurn(telling, room.others),
    beyond: inTurn(elsewhere, room.beyond),
    telling: telling.length,
    of: siblings.length,
    total: all.length,
    ...spansOf(pieces, piece, siblings, room),
    twin,
  };
}

/** The spans of drawn curves at which a piece lies alone, and those at which its siblings do. */
function spansOf(pieces: readonly Traced[], piece: number, siblings: readonly number[], room: Room) {
  const alone = (i: number) =>
    [...pieces[i]!.spans()].filter((span) => siblings.every((j) => j === i || !pieces[j]!.spans().has(span))).sort();
  const others = siblings.filter((i) => i !== piece).map(alone);
  // As many as there were others only where each had one.
  const most = others.every((spans) => spans.length > 0) ? room.curves : Math.min(room.curves, others.length - 1);
  return { at: alone(piece).slice(0, room.curves), past: inTurn(others, most) };
}

/** One of each list first, then more of each, as far as there is room. */
function inTurn(lists: readonly (readonly string[])[], room: number): string[] {
  const taken = new Set<string>();
  for (let round = 0; taken.size < room && lists.some((list) => list.length > round); round++)
    for (const list of lists) {
      const bound = list[round];
      if (bound !== undefined && taken.size < room) taken.add(bound);
    }
  return [...taken].sort();
}

function twinOf(pieces: readonly Traced[], piece: number, rest: readonly number[], room: Room): Twin | null {
  const self = pieces[piece]!;
  const byCutters = new Set([...self.bounds].filter(isCutterBound));
  const peers = rest.filter((i) => sameBounds(new Set([...pieces[i]!.bounds].filter(isCutterBound)), byCutters));
  if (peers.length === 0) return null;
  const spot = self.spot();
  if (!spot) return { count: 1, gap: 0, next: 0, size: 0, spots: [] };
  const places = peers.flatMap((i) => {
    const at = pieces[i]!.spot()?.seen[0]?.at;
    return at ? [at] : [];
  });
  const row = [
    spot,
    ...peers.flatMap((i) => (sameBounds(pieces[i]!.bounds, self.bounds) ? (pieces[i]!.spot() ?? []) : [])),
  ];
  const among = amongOf(row);
  const apart = (places: readonly Vec3[]) =>
    places.length > 0 ? Math.min(...places.map((other) => away(other, spot.seen[0]!.at))) : 0;
  // One view from each body is enough.
  const views = spot.seen.flatMap(({ of }, k) => (spot.seen.findIndex((other) => other.of === of) === k ? [k] : []));
  return {
    count: row.length,
    gap: apart(places),
    next: apart(row.slice(1).map(({ seen }) => seen[0]!.at)),
    size: spot.size,
    spots: views.slice(0, room.spots).map((k) => ({
      tag: spot.seen[k]!.tags[0]!,
      at: spot.seen[k]!.at,
      among: among[k]![0]!,
    })),
  };
}

/** For each body that a row of spots is seen from: where each lies from their common middle, by how far they are spread. */
export function amongOf(row: readonly Spot[]): Vec3[][] {
  return (row[0]?.seen ?? []).map((_, k) => {
    const places = row.map(({ seen }) => seen[k]!.at);
    const middle = scale(
      places.reduce((sum, place) => add(sum, place)),
      1 / places.length,
    );
    const offs = places.map((place) => sub(place, middle));
    const spread = Math.sqrt(offs.reduce((sum, off) => sum + dot(off, off), 0) / offs.length);
    return offs.map((off) => (spread > SAME_WAY ? scale(off, 1 / spread) : off));
  });
}

export const sameBounds = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean =>
  a.size === b.size && [...a].every((bound) => b.has(bound));

export const away = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

const short = (value: number) => String(Math.round(value * 100) / 100 + 0);

/** A mark as text, for names and decisions. */
export function writeMark({ own, shared, others, beyond, telling, of, total, at: lay, past, twin }: Mark): string {
  const bounds = `${own.join("")}.${shared.join("")}.${others.join("")}${beyond.length > 0 ? `.${beyond.join("")}` : ""}`;
  const listed = own.length + shared.length;
  const curves = lay.length + past.length > 0 ? `=${lay.join("")}.${past.join("")}` : "";
  const counts = `${of > 1 ? `*${of}-${telling}` : ""}${total > listed ? `+${total}` : ""}${curves}`;
  if (!twin) return bounds + counts;
  const spots = twin.spots
    .map(
      ({ tag, at, among }) =>
        `${tag}${at.map(short).join(",")}${twin.count > 1 ? `/${among.map(short).join(",")}` : ""}`,
    )
    .join(";");
  return `${bounds}${counts}@${twin.count};${short(twin.gap)};${short(twin.next)};${Number(twin.size.toPrecision(8))};${spots}`;
}

const FORM =
  /^([\w-]*)\.([\w-]*)\.([\w-]*)(?:\.([\w-]*))?(?:\*(\d+)-(\d+))?(?:\+(\d+))?(?:=([\w-]*)\.([\w-]*))?(?:@(.+))?$/;

/** Reads a mark; null where the text is none. */
export function readMark(text: string): Mark | null {
  const found = FORM.exec(text);
  if (!found) return null;
  const [, own = "", shared = "", others = "", beyond = "", of, telling, total, at = "", past = "", twin] = found;
  const list = (run: string) => run.match(/.{5}/g) ?? [];
  if ([own, shared, others, beyond, at, past].some((run) => run.length % LENGTH !== 0)) return null;
  const mark: Mark = {
    own: list(own),
    shared: list(shared),
    others: list(others),
    beyond: list(beyond),
    telling: Number(telling ?? 0),
    of: Number(of ?? 1),
    total: Number(total ?? (own.length + shared.length) / LENGTH),
    at: list(at),
    past: list(past),
    twin: null,
  };
  if (twin === undefined) return mark;
  const [count, gap, next, size, ...spots] = twin.split(";");
  const places = spots.map((spot): TwinSpot => {
    const [at, among] = spot.slice(LENGTH).split("/");
    return { tag: spot.slice(0, LENGTH), at: readPlace(at), among: among === undefined ? [0, 0, 0] : readPlace(among) };
  });
  const numbers = [
    Number(count),
    Number(gap),
    Number(next),
    Number(size),
    ...places.flatMap(({ at, among }) => [...at, ...among]),
  ];
  if (numbers.some((value) => !Number.isFinite(value))) return null;
  return {
    ...mark,
    twin: { count: Number(count), gap: Number(gap), next: Number(next), size: Number(size), spots: places },
  };
}

function readPlace(text = ""): Vec3 {
  const [x = Number.NaN, y = Number.NaN, z = Number.NaN] = text.split(",").map(Number);
  return [x, y, z];
}
