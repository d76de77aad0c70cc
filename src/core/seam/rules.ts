import * as z from "zod";
import { fateSchema, type Piece, sideSchema } from "./piece";
import type { PresetFate } from "./presets";

/** What a piece has to be for a rule to say what becomes of it: all that is given has to hold. */
export const pieceFilterSchema = z.strictObject({
  stock: z.string().max(700).optional().describe("A stock body as listed: the piece is part of it"),
  sides: z
    .record(z.string().max(700), sideSchema)
    .default({})
    .describe("By cutter or body as listed: the side of it on which the piece lies; a body's inside is `in`"),
  atLeast: z.number().min(0).optional().describe("Its volume, mm³, is no less; of a piece of a sheet its area, mm²"),
  under: z.number().min(0).optional().describe("Its volume, mm³, is less; of a piece of a sheet its area, mm²"),
});
export type PieceFilter = z.infer<typeof pieceFilterSchema>;

/** A fate for every piece that is so, now and after every edit. Of several rules that fit a piece the last one holds. */
export const pieceRuleSchema = z.strictObject({
  where: pieceFilterSchema,
  fate: fateSchema,
  group: z.string().trim().min(1).max(60).optional().describe("Name of the group"),
});
export type PieceRule = z.infer<typeof pieceRuleSchema>;

/** What a filter looks at of a piece. */
export interface Filtered {
  stock: readonly string[];
  sides: Readonly<Record<string, string>>;
  /** mm³; of a piece of a sheet its area, mm². */
  size: number;
}

/**
 * Whether a piece is as a filter says.
 * @param owners the ids that a name in the filter stands for: of an item as listed, those of all that it means.
 */
export function fits(filter: PieceFilter, piece: Filtered, owners: (name: string) => readonly string[]): boolean {
  const { stock, sides, atLeast, under } = filter;
  if (stock !== undefined && !owners(stock).some((id) => piece.stock.includes(id))) return false;
  for (const [name, side] of Object.entries(sides))
    if (!owners(name).some((id) => piece.sides[id] === side)) return false;
  return piece.size >= (atLeast ?? 0) && (under === undefined || piece.size < under);
}

/** The fate that rules give a piece, over what the preset says, and which rule it was. */
export function ruledFate(
  preset: (piece: Piece) => PresetFate,
  rules: readonly PieceRule[],
  piece: Piece,
  size: (piece: Piece) => number,
  owners: (name: string) => readonly string[],
): { fate: PresetFate; rule: number | null } {
  const rule = rules.findLastIndex(({ where }) =>
    fits(where, { stock: piece.stock, sides: piece.sides, size: needsSize(where) ? size(piece) : 0 }, owners),
  );
  if (rule < 0) return { fate: preset(piece), rule: null };
  const { fate, group } = rules[rule]!;
  return { fate: { fate, ...(fate === "group" ? { group: group ?? "group" } : {}) }, rule };
}

const needsSize = ({ atLeast, under }: PieceFilter) => atLeast !== undefined || under !== undefined;
