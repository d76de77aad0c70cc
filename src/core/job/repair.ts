import type { Repair, StepChange } from "../errors";
import { isFormula, toMm } from "../params";
import type { Step } from "./document";

/** All that a repair changes, step by step. */
export const changesOf = ({ step, set, or, with: more }: Repair): StepChange[] => [
  { step, set, ...(or ? { or } : {}) },
  ...(more ?? []),
];

/** What a repair sets: a value as it is, or an amount of millimetres added to what is there, formula or not. */
export function repaired(step: Step, set: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(set).map(([key, value]) => {
      const amount = (value as { add?: number } | null)?.add;
      if (typeof amount !== "number") return [key, value];
      const old = step[key] as number | string | undefined;
      if (isFormula(old)) return [key, `${old} + ${amount} mm`];
      return [key, toMm(old ?? 0) + amount];
    }),
  );
}
