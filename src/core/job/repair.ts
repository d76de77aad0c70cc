import type { Repair, StepChange } from "../errors";
import { isFormula, toMm } from "../params";
import { stepType } from "../steps";
import { edits, freshStepId } from "./changes";
import type { Job, Part, Step } from "./document";

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

/** A step as a repair has it done before another: with an id that the part, and whatever step is open, does not have. */
export function insertedStep(
  part: Part,
  { type, ...values }: NonNullable<Repair["insert"]>,
  job: Job,
  open?: Step,
): Step {
  return newStep(freshStepId(open ? { ...part, steps: [...part.steps, open] } : part, job), type, values);
}

/** A fresh step with the defaults of its type. */
export function newStep(id: string, type: string, values: Record<string, unknown> = {}): Step {
  const parsed = stepType(type)!.schema.safeParse(values);
  return { id, type, suppressed: false, ...(parsed.success ? (parsed.data as Record<string, unknown>) : values) };
}

/** Puts a step before another; where that is not in the part yet, to where new work goes. */
export function insertBefore(part: Part, step: Step, before: string): void {
  const at = part.steps.findIndex(({ id }) => id === before);
  if (at < 0) edits.addStep(part, step);
  else part.steps.splice(at, 0, step);
}
