import type { Body } from "../../items";
import { KernelFault, volumeOf } from "../../kernel";
import { type Division, divideAll } from "../../seam";

/** What two bodies have in common, mm³; null where they lie too near to each other to be divided. */
export function common(one: Body, other: Body): number | null {
  let division: Division;
  try {
    division = divideAll([one, other]);
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal) return null;
    throw cause;
  }
  try {
    return division.pieces
      .filter(({ stock }) => stock.length === 2)
      .reduce((sum, { shape }) => sum + volumeOf(shape), 0);
  } finally {
    division.free();
  }
}
