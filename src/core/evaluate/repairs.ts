import type { Repair, StepChange, Trouble } from "../errors";
import { hashValue } from "../hash";
import { changesOf, insertedStep, type Job, type Part, partsNeeded, repaired, type Step } from "../job";
import { stepType } from "../steps";
import type { StepReport } from "./types";

/** Builds a changed part up to a step and says what came of its steps. */
export type Trial = (job: Job, part: Part, upTo: string) => readonly StepReport[];

/** What trials gave before: the same repair of the same sheet is offered again on every edit of something else. */
const known = new Map<string, boolean>();
const KNOWN = 300;

/**
 * A step's trouble with those of its repairs that do mend it: each is tried on the sheet as it is, and what its step cannot
 * take, or what leaves the step failing, is not offered.
 */
export function withTriedRepairs(trouble: Trouble, job: Job, part: Part, trial: Trial): Trouble {
  const { repair, others = [], ...rest } = trouble;
  const offered = [...(repair ? [repair] : []), ...others]
    .flatMap((one) => fitted(one, part) ?? [])
    .filter((one) => mends(one, trouble, job, part, trial));
  const [first, ...more] = offered;
  return { ...rest, ...(first ? { repair: first } : {}), ...(more.length > 0 ? { others: more } : {}) };
}

/** A repair with, of each step's changes, the one that the step can take; null where it can take none. */
function fitted(repair: Repair, part: Part): Repair | null {
  const changes = changesOf(repair).map(({ step: id, set, or = [] }): StepChange | null => {
    const step = part.steps.find((one) => one.id === id);
    const taken = step && [set, ...or].find((one) => changed(step, one) !== null);
    return taken ? { step: id, set: taken } : null;
  });
  const [first, ...more] = changes.flatMap((change) => change ?? []);
  if (!first || changes.includes(null)) return null;
  const { label, insert } = repair;
  return { label, ...first, ...(insert ? { insert } : {}), ...(more.length > 0 ? { with: more } : {}) };
}

function mends(repair: Repair, trouble: Trouble, job: Job, part: Part, trial: Trial): boolean {
  const { step } = trouble;
  if (step === undefined) return false;
  // What it brings something in from goes with it: the same repair may mend it or not by what the other part has become.
  const [, ...others] = partsNeeded(job, part.id);
  const key = hashValue([job.parameters, part.parameters ?? null, part.steps, others, step, repair]);
  let mended = known.get(key);
  if (mended === undefined) {
    const changes = new Map(changesOf(repair).map((change) => [change.step, change.set] as const));
    const steps = part.steps.flatMap((one) => [
      ...(repair.insert && one.id === repair.step ? [insertedStep(part, repair.insert, job)] : []),
      changes.has(one.id) ? changed(one, changes.get(one.id)!) : one,
    ]);
    mended = !steps.includes(null) && isBuilt(trial(job, { ...part, steps: steps as Step[], hold: null }, step), step);
    if (known.size >= KNOWN) known.clear();
    known.set(key, mended);
  }
  return mended;
}

/** A step with a repair done to it; null where it cannot take that. */
function changed(step: Step, set: Record<string, unknown>): Step | null {
  const schema = stepType(step.type)?.schema;
  const next = { ...step, ...repaired(step, set) };
  if (!schema) return null;
  const fields = (schema as unknown as { shape?: Record<string, unknown> }).shape ?? {};
  if (Object.keys(set).some((field) => !(field in fields))) return null;
  return schema.safeParse(next).success ? next : null;
}

const isBuilt = (steps: readonly StepReport[], id: string) =>
  steps.some((report) => report.id === id && (report.state === "good" || report.state === "warned"));
