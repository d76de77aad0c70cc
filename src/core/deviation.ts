import { hearing } from "./hearing";

/** How far something is off, mm, and where. */
export interface Deviation {
  size: number;
  at: readonly [number, number, number];
}

/**
 * How far a division is off where nothing in what it made says so: what divides tells it, and whoever has a step done hears it.
 * So no step can divide and keep it to itself.
 */
export const { tell: tellDeviation, hearing: hearingDeviations } = hearing<Deviation>();

/** Does some work, and gives beside its result the worst that was told meanwhile. */
export function withDeviation<T>(work: () => T): { result: T; off: Deviation | null } {
  let off: Deviation | null = null;
  const result = hearingDeviations((told) => {
    if (told.size > (off?.size ?? 0)) off = told;
  }, work);
  return { result, off };
}
