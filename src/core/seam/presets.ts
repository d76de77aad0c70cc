import { z } from "zod";
import type { Fate, Piece } from "./piece";

export const PRESETS = ["split", "trim", "union", "subtract", "intersect"] as const;
export const presetSchema = z.enum(PRESETS);
export type Preset = (typeof PRESETS)[number];

/** Which side of each cutter a trim keeps, by the cutter's id as the step refers to it. */
export const keepSideSchema = z.enum(["front", "back", "in", "out", "either"]);
export type KeepSide = z.infer<typeof keepSideSchema>;

export interface PresetFate {
  fate: Fate;
  group?: string;
}

/** Whether a preset divides all bodies by one another (operands) or each stock body by the cutters. */
export function dividesAll(preset: Preset): boolean {
  return preset === "union" || preset === "intersect";
}

/**
 * The fate that a preset gives a piece before anyone decides otherwise.
 * @param operands ids of all bodies that a union or an intersection works on.
 */
export function presetFate(
  preset: Preset,
  piece: Pick<Piece, "stock" | "sides">,
  operands: readonly string[],
  keepSide: Readonly<Record<string, KeepSide>>,
): PresetFate {
  switch (preset) {
    case "split":
      return { fate: "keep" };
    case "trim": {
      const wrong = Object.entries(piece.sides).some(([id, side]) => {
        const wanted = keepSide[id] ?? (side === "in" || side === "out" ? "out" : "front");
        return wanted !== "either" && side !== wanted && side !== "both";
      });
      return { fate: wrong ? "scrap" : "keep" };
    }
    case "subtract":
      return { fate: Object.values(piece.sides).includes("in") ? "scrap" : "keep" };
    case "union":
      return { fate: "group", group: "union" };
    case "intersect":
      return operands.every((id) => piece.stock.includes(id)) ? { fate: "group", group: "common" } : { fate: "scrap" };
  }
}
