import * as z from "zod";
import type { Fate, Piece, Side } from "./piece";

export const PRESETS = ["split", "choose", "trim", "union", "subtract", "intersect", "fill"] as const;
export const presetSchema = z.enum(PRESETS);
export type Preset = (typeof PRESETS)[number];

/** Which side of each cutter a trim keeps, by the cutter's id as the step refers to it. */
export const keepSideSchema = z.enum(["front", "back", "in", "out", "either"]);
export type KeepSide = z.infer<typeof keepSideSchema>;

export interface PresetFate {
  fate: Fate;
  group?: string;
}

/** Whether a piece lies in a cutter: inside a solid, or behind a single face, where the material of the body is that the face is of. */
const isBehind = (side: Side, reached = true) => side === "in" || (side === "back" && reached);

/** Whether a preset divides all bodies by one another (operands) or each stock body by the cutters. */
export function dividesAll(preset: Preset): boolean {
  return preset === "union" || preset === "intersect";
}

/** Whether a trim's choice of sides would take a piece away for where it lies to a cutter. */
export function onWrongSide(id: string, side: Side, keepSide: Readonly<Record<string, KeepSide>>): boolean {
  const wanted = keepSide[id] ?? (side === "in" || side === "out" ? "out" : "front");
  return wanted !== "either" && side !== wanted && side !== "both";
}

/**
 * The fate that a preset gives a piece before anyone decides otherwise. A side counts only for stock that the cutter reaches.
 * @param reaches whether a cutter, by id, reaches the stock that the piece is of.
 * @param operands ids of all bodies that a union or an intersection works on.
 */
export function presetFate(
  preset: Preset,
  piece: Pick<Piece, "stock" | "sides">,
  operands: readonly string[],
  keepSide: Readonly<Record<string, KeepSide>>,
  reaches: (cutter: string) => boolean = () => true,
): PresetFate {
  switch (preset) {
    case "split":
    case "choose":
    case "fill":
      return { fate: "keep" };
    case "trim": {
      const wrong = Object.entries(piece.sides).some(([id, side]) => reaches(id) && onWrongSide(id, side, keepSide));
      return { fate: wrong ? "scrap" : "keep" };
    }
    case "subtract":
      return { fate: Object.entries(piece.sides).some(([id, side]) => isBehind(side, reaches(id))) ? "scrap" : "keep" };
    case "union":
      return { fate: "group", group: "union" };
    case "intersect":
      return operands.every((id) => piece.stock.includes(id)) &&
        Object.values(piece.sides).every((side) => isBehind(side))
        ? { fate: "group", group: "common" }
        : { fate: "scrap" };
  }
}
