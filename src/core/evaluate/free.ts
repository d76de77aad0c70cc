import { handlingOf } from "../items";
import { freeShape, type Shape } from "../kernel";
import type { PieceReport, StepOutcome } from "../steps/evaluation";

/** Frees what a step made, where it is not taken. */
export function freeOutcome({ made, tools, pieces }: StepOutcome): void {
  for (const item of [...made, ...(tools ?? [])]) handlingOf(item).free(item);
  freePieces(pieces ?? []);
}

/** Frees the shapes of piece reports. */
export function freePieces(pieces: readonly PieceReport[]): void {
  for (const { shape } of pieces) freeShape(shape as Shape);
}
