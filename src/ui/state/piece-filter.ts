import type { PieceFilter, PieceRule } from "@/core/seam";
import { fits } from "@/core/seam/rules";
import type { LengthUnit } from "@/core/units";
import type { ItemView, PieceView } from "@/engine/contract";
import { formatArea, formatVolume } from "../settings/format";
import { sideWord } from "./sides";
import type { Found } from "./whereabouts";

/** In which order the tray has its pieces. */
export type PieceOrder = "number" | "largest" | "smallest";

/** All pieces. */
export const EVERY: PieceFilter = { sides: {} };

export const isEvery = ({ stock, sides, atLeast, under }: PieceFilter): boolean =>
  stock === undefined && atLeast === undefined && under === undefined && Object.keys(sides).length === 0;

/** Its volume, mm³; of a piece of a sheet its area, mm². */
const sizeOf = ({ measures }: PieceView): number => measures.volume ?? measures.area;

/** Whether a piece is as a filter says that speaks of items by their ids. */
export const isShown = (filter: PieceFilter, piece: PieceView): boolean =>
  fits(filter, { stock: piece.stock, sides: piece.sides, size: sizeOf(piece) }, (id) => [id]);

export function inOrder(pieces: readonly PieceView[], order: PieceOrder): PieceView[] {
  if (order === "number") return [...pieces];
  const way = order === "largest" ? -1 : 1;
  return [...pieces].sort((a, b) => way * (sizeOf(a) - sizeOf(b)) || a.index - b.index);
}

/** Pieces of the same stock on the same sides of everything. */
export const like = ({ stock, sides }: PieceView): PieceFilter => ({
  ...(stock[0] ? { stock: stock[0] } : {}),
  sides: { ...sides },
});

/** Something that some pieces are and others are not, to be asked for. */
export interface Condition {
  key: string;
  label: string;
  of: Pick<PieceFilter, "stock"> & { sides?: PieceFilter["sides"] };
}

/** What tells the pieces apart: the stock that they are of, and the sides that they lie on. */
export function conditionsOf(pieces: readonly PieceView[], items: ReadonlyMap<string, ItemView>): Condition[] {
  const found = new Map<string, { condition: Condition; times: number }>();
  const note = (condition: Condition) => {
    const known = found.get(condition.key);
    if (known) known.times++;
    else found.set(condition.key, { condition, times: 1 });
  };
  for (const { stock, sides } of pieces) {
    for (const id of stock)
      note({ key: `of ${id}`, label: `of ${items.get(id)?.name ?? "a body"}`, of: { stock: id } });
    for (const [id, side] of Object.entries(sides))
      note({ key: `${side} ${id}`, label: sidePhrase(id, side, items), of: { sides: { [id]: side } } });
  }
  return [...found.values()].flatMap(({ condition, times }) => (times < pieces.length ? [condition] : []));
}

function sidePhrase(id: string, side: string, items: ReadonlyMap<string, ItemView>): string {
  const item = items.get(id);
  return `${sideWord(item, side)} ${item?.name ?? "a picked face"}`;
}

/** A filter in words: “of Block, behind Level, 6 cm³ or more”. */
export function filterWords(
  filter: PieceFilter,
  items: ReadonlyMap<string, ItemView>,
  unit: LengthUnit,
  sheets: boolean,
): string {
  const size = (value: number) => (sheets ? formatArea(value, unit) : formatVolume(value, unit));
  const words = [
    ...(filter.stock === undefined ? [] : [`of ${items.get(filter.stock)?.name ?? "a body"}`]),
    ...Object.entries(filter.sides).map(([id, side]) => sidePhrase(id, side, items)),
    ...(filter.atLeast === undefined ? [] : [`${size(filter.atLeast)} or more`]),
    ...(filter.under === undefined ? [] : [`under ${size(filter.under)}`]),
  ];
  return words.length > 0 ? words.join(", ") : "all pieces";
}

/**
 * A filter by ids as a step keeps it: each item as the step lists it, so that it means the same after an edit.
 * @param refs what the step lists, of which each may mean several items.
 */
export function kept(filter: PieceFilter, refs: readonly string[], found: Found): PieceFilter {
  const name = (id: string) => refs.find((ref) => ref === id || isOnly(found.items([ref]), id)) ?? id;
  return {
    ...filter,
    ...(filter.stock === undefined ? {} : { stock: name(filter.stock) }),
    sides: Object.fromEntries(Object.entries(filter.sides).map(([id, side]) => [name(id), side])),
  };
}

/** A rule as it is to be read: with each name as the one item that it means now. */
export function readRule({ where, ...rule }: PieceRule, found: Found): PieceRule {
  const id = (name: string) => found.items([name])[0] ?? name;
  return {
    ...rule,
    where: {
      ...where,
      ...(where.stock === undefined ? {} : { stock: id(where.stock) }),
      sides: Object.fromEntries(Object.entries(where.sides).map(([name, side]) => [id(name), side])),
    },
  };
}

const isOnly = (ids: readonly string[], id: string) => ids.length === 1 && ids[0] === id;
