import { fail } from "../../errors";
import type { Body } from "../../items";
import { countsOf, freeShape, KernelFault, surfaceCentre, unsoundness } from "../../kernel";
import { comparePlaces } from "../../naming";
import {
  type Closed,
  closePieces,
  type Division,
  IN_NAMES,
  type Joined,
  joinPieces,
  keyOf,
  marksAmong,
  olderKeys,
  type Piece,
  type Settled,
  writeMark,
} from "../../seam";
import { counted } from "../../words";
import type { StepContext, Trace } from "../evaluation";
import { type Lump, united } from "./unite";

/** What more is wanted of what is kept. */
interface Settling {
  /** The bodies that groups go to, by their names. */
  to?: ReadonlyMap<string, Body>;
  /** Whether pieces of sheets are closed where they were cut. */
  closing?: boolean;
  /** Pieces that are parts of others, which stay. */
  into?: ReadonlyMap<Piece, Piece>;
}

/**
 * Kept pieces become bodies, groups are joined, and everything gets the id and name that it keeps after an edit.
 * @returns what was made; of how many bodies each group is; what became of the stock that is one body still, by id, and of the bodies
 * that groups went to; those, by id, which are used up; and what all of it is known by.
 * @param mark what tells its groups from others of the step that have their name.
 */
export function settleBodies(
  division: Division,
  settled: Settled,
  stock: readonly Body[],
  context: StepContext,
  mark = "",
  { to = new Map(), closing = false, into = new Map() }: Settling = {},
) {
  const { step } = context;
  const made: Body[] = [];
  const heirs = new Map<string, Set<string>>();
  const inherit = ({ pieces }: Joined, id: string) => {
    for (const owner of pieces.flatMap((piece) => piece.stock)) {
      const ids = heirs.get(owner);
      if (ids) ids.add(id);
      else heirs.set(owner, new Set([id]));
    }
  };
  const lumps = new Map<string, number>();
  const single: Piece[] = [];
  const groups = new Map<string, Piece[]>();
  for (const piece of division.pieces) {
    const { fate, group = "group" } = settled.fates[piece.index]!;
    if (fate === "keep") single.push(piece);
    else if (fate === "group") {
      const list = groups.get(group);
      if (list) list.push(piece);
      else groups.set(group, [piece]);
    }
  }
  const count = new Map<string | undefined, number>();
  const lots = lotsOf(division, single, { closing, into }, context);
  const ofOwner = new Map<string | undefined, number>();
  for (const { pieces } of lots) ofOwner.set(pieces[0]!.stock[0], (ofOwner.get(pieces[0]!.stock[0]) ?? 0) + 1);
  const idOfPiece = new Map<Piece, string>();
  for (const joined of lots) {
    const [first] = joined.pieces;
    const [owner] = first!.stock;
    const several = ofOwner.get(owner)! > 1;
    const number = (count.get(owner) ?? 0) + 1;
    count.set(owner, number);
    const id = `${step}:${first!.key()}`;
    for (const piece of joined.pieces) idOfPiece.set(piece, id);
    inherit(joined, id);
    const suffix = several ? String(number) : "";
    // What was enclosed is of no stock.
    made.push(toBody(joined, id, owner ? { from: owner, suffix } : { text: `Fill${suffix && ` ${suffix}`}` }));
    tellOpen(joined, context);
  }
  const traces = [pieceTraces(division.pieces, (piece) => idOfPiece.get(piece) ?? null)];
  const joinedTo: Record<string, string> = {};
  for (const [name, pieces] of groups) {
    const body = to.get(name) ?? null;
    const closed = closing && pieces.every(({ form, fusion }) => form === "sheet" && fusion === pieces[0]!.fusion);
    const joined = united(
      closed ? closedSound(division, pieces, context) : joinPieces(division, pieces),
      body,
      context,
    );
    lumps.set(name, joined.length);
    const { order, trace } = lumpTraces(step, `group:${name}${mark}`, joined);
    order.forEach((lump, i) => {
      const number = order.length > 1 ? String(i + 1) : "";
      const preset = name === "union" || name === "common";
      const { id } = trace[i]!;
      // A group has a name of its own, whatever its step is called; what went to a body is that body still.
      const hint =
        body && lump.holds
          ? { from: body.id, suffix: "" }
          : preset
            ? { from: stock[0]!.id, suffix: number }
            : { text: `${name}${number ? ` ${number}` : ""}`, given: true as const };
      if (body && lump.holds) joinedTo[body.id] = id!;
      inherit(lump, id!);
      made.push(toBody(lump, id!, hint));
    });
    traces.push(trace);
    tellGroupApart(name, joined, body, context);
  }
  refuseSpoilt(division, made);
  return { made, lumps, becomes: { ...soleHeirs(stock, heirs), ...joinedTo }, used: Object.keys(joinedTo), traces };
}

/**
 * Cells of a delicate division were weighed one by one; a solid that is joined of several is held against the law of sound solids, too:
 * skins a millionth of a millimetre apart have been seen to cross in it. Where it only touches itself that is told elsewhere.
 * @throws KernelFault with a place; what was made is freed.
 */
function refuseSpoilt({ pieces }: Division, made: readonly Body[]): void {
  if (!pieces.some(({ fusion }) => fusion.delicate)) return;
  const spoilt = made.find(
    ({ kind, shape }) =>
      kind === "solid" && unsoundness(shape, "solid") !== null && countsOf(shape).pinches.length === 0,
  );
  if (!spoilt) return;
  const at = surfaceCentre(spoilt.shape);
  for (const { shape } of made) freeShape(shape);
  throw new KernelFault("What was joined is no sound solid.", false, at);
}

/** A body to be, with the places where it should have been closed and is not. */
type Lot = Joined & { open?: Closed["open"] };

/**
 * What each body is made of that no group is: a piece with those that are parts of it, or those of a sheet on the same sides of all
 * cutters that what closes them joins.
 * In the order of their first pieces.
 */
function lotsOf(
  division: Division,
  pieces: readonly Piece[],
  { closing, into }: Required<Pick<Settling, "closing" | "into">>,
  context: StepContext,
): Lot[] {
  if (!closing && into.size === 0) return pieces.flatMap((piece) => joinPieces(division, [piece]));
  const classes = new Map<string, Piece[]>();
  // What another is a part of comes first: the body is called after it.
  for (const own of [...pieces].sort((a, b) => Number(into.has(a)) - Number(into.has(b)))) {
    const piece = into.get(own) ?? own;
    const closes = closing && piece.form === "sheet";
    const key = closes ? `${piece.stock[0]} ${JSON.stringify(piece.sides)}` : `${piece.index}`;
    classes.set(key, [...(classes.get(key) ?? []), own]);
  }
  return [...classes.values()]
    .flatMap((same) =>
      closing && same[0]!.form === "sheet" ? closedSound(division, same, context) : joinPieces(division, same),
    )
    .sort((a, b) => a.pieces[0]!.index - b.pieces[0]!.index);
}

function closedSound(division: Division, pieces: readonly Piece[], context: StepContext): Closed[] {
  const closed = closePieces(division, pieces);
  refuseUnsound(closed, context);
  return closed;
}

/** What was closed where it was cut is held against the law of sound solids: it is put together of parts that nothing has weighed. */
function refuseUnsound(closed: readonly Closed[], { step, nameOf }: StepContext): void {
  const wrong = closed.find(({ form, shape }) => form === "solid" && unsoundness(shape, "solid") !== null);
  if (!wrong) return;
  const owner = wrong.pieces[0]!.stock[0]!;
  const at = surfaceCentre(wrong.shape);
  for (const { shape } of closed) freeShape(shape);
  fail(
    "closing-failed",
    `${nameOf(owner)} could not be closed where it was cut: what closes it does not make a sound solid. Cut it without closing it, or by one cutter at a time.`,
    { step, bodies: [owner], field: "close", at: [...at] },
  );
}

/** Tells of a body that was to be closed and is open still where it was cut. */
function tellOpen({ open = [], pieces }: Lot, { step, warn, nameOf }: StepContext): void {
  if (open.length === 0) return;
  const owner = pieces[0]!.stock[0]!;
  const [at, ...places] = open.map((place): [number, number, number] => [...place]);
  warn({
    code: "stays-open",
    message: `${nameOf(owner)} stays open where it was cut, along ${counted(open.length, "edge")}: nothing of a cutter begins and ends there all round.`,
    step,
    bodies: [owner],
    pieces: pieces.map(({ key }) => key()),
    at: at!,
    ...(places.length > 0 ? { places } : {}),
  });
}

/** Tells of a group that is not one body, or does not touch the one that it goes to. */
function tellGroupApart(
  name: string,
  lumps: readonly Lump[],
  to: Body | null,
  { step, warn, nameOf }: StepContext,
): void {
  const loose = to ? lumps.filter(({ holds }) => !holds).length : 0;
  const what =
    loose === lumps.length
      ? `“${name}” does not touch ${nameOf(to?.id ?? "")} along a face, so it stays ${loose === 1 ? "a body" : `${loose} bodies`} of its own.`
      : `${loose} of ${lumps.length} parts of “${name}” do not touch ${nameOf(to?.id ?? "")} along a face, and stay by themselves.`;
  if (to && loose > 0) warn({ code: "group-apart", message: what, step, bodies: [to.id] });
  else if (lumps.length > 1 && name !== "union" && name !== "common")
    warn({
      code: "group-apart",
      message: `The pieces of “${name}” do not touch along a face, so they stay ${lumps.length} bodies.`,
      step,
    });
}

/** What the pieces are known by. Where they lie is kept of those that others of their kind may be taken for. */
function pieceTraces(pieces: readonly Piece[], idOf: (piece: Piece) => string | null): Trace[] {
  const older = olderKeys(pieces);
  return pieces.map((piece, i) => ({
    id: idOf(piece),
    keys: [...new Set(piece.kinds.map(keyOf))],
    bounds: [...piece.bounds],
    ...(piece.spans().size > 0 ? { spans: [...piece.spans()] } : {}),
    spot: pieces.some((other) => other !== piece && other.kind === piece.kind) ? piece.spot() : null,
    once: older[i]!,
    ...amongCutters(piece),
  }));
}

/** What a piece was called before the step had all its cutters follows from these. */
function amongCutters(piece: Piece): Pick<Trace, "among"> {
  const cutBy = Object.keys(piece.sides).length > 1 ? piece.cutBy() : null;
  return cutBy ? { among: { kind: piece.kind, cutBy: [...cutBy] } } : {};
}

/** The lumps that a group is, in order of place, and what they are known by: a group in one lump by its name alone. */
function lumpTraces(step: string, key: string, joined: readonly Lump[]): { order: Lump[]; trace: Trace[] } {
  const known = joined.map((lump) => ({
    lump,
    bounds: new Set(lump.pieces.flatMap(({ bounds }) => [...bounds])),
    spans: () => new Set(lump.pieces.flatMap((piece) => [...piece.spans()])),
    // A lump of several pieces lies where the first of them does: good enough to tell lumps apart by.
    spot: () => lump.pieces[0]!.spot(),
  }));
  const markOf = marksAmong(known);
  const all = known.map((_, i) => i);
  const firstSeen = (i: number) => known[i]!.spot()?.seen[0]?.at ?? [0, 0, 0];
  const order = joined.length > 1 ? [...all].sort((a, b) => comparePlaces(firstSeen(a), firstSeen(b))) : all;
  return {
    order: order.map((i) => joined[i]!),
    trace: order.map((i, place) => ({
      id: `${step}:${key}${joined.length > 1 ? `~${writeMark(markOf(i, all, IN_NAMES))}` : ""}`,
      keys: [key],
      bounds: [...known[i]!.bounds],
      ...(joined.length > 1 ? { spans: [...known[i]!.spans()] } : {}),
      spot: joined.length > 1 ? known[i]!.spot() : null,
      ...(joined.length > 1 ? { once: `${key}.${place + 1}` } : {}),
    })),
  };
}

/** Bodies that went whole, or but for scrap, into one other: what names them later means that one. */
function soleHeirs(stock: readonly Body[], heirs: ReadonlyMap<string, ReadonlySet<string>>): Record<string, string> {
  return Object.fromEntries(
    stock.flatMap(({ id }) => {
      const ids = [...(heirs.get(id) ?? [])];
      return ids.length === 1 ? [[id, ids[0]!]] : [];
    }),
  );
}

function toBody({ form, shape, faces }: Joined, id: string, hint: Body["hint"]): Body {
  return { id, kind: form, shape, faces, hint };
}
