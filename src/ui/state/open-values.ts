import { produce } from "immer";
import { inWords } from "@/core/issues";
import { edits, type Job, type Step, scopeOf, settleLinks } from "@/core/job";
import type { Scope } from "@/core/params";
import { resolveStep, stepType } from "@/core/steps";
import type { Editing } from "./workspace-store";

/** What is wrong with the values of a step, by field path (`size.0`); empty when it can be built. */
export type Problems = Record<string, string>;

export function problemsOf(step: Step, scope: Scope): Problems {
  const type = stepType(step.type);
  if (!type) return { "": "This kind of step is not known here." };
  const { id: _id, type: _type, name: _name, suppressed: _suppressed, ...values } = step;
  const result = type.schema.safeParse(values);
  const written = result.success
    ? {}
    : Object.fromEntries(result.error.issues.map((issue) => [issue.path.join("."), inWords(issue, values)]));
  return { ...resolveStep(step, scope).problems, ...written };
}

/** The names that formulas of a part can use. */
export function scopeIn(job: Job, part: string): Scope {
  return scopeOf(
    job,
    job.parts.find((candidate) => candidate.id === part),
  );
}

/** The job as it would be with the open step kept: what is built for the preview. */
export function withOpenStep(job: Job, part: string, editing: Editing): Job {
  const opened = withStep(job, part, editing);
  // What it brings in is taken as it would be with it kept.
  return editing.step.type === "bring-in" ? produce(opened, (draft) => settleLinks(draft, job)) : opened;
}

function withStep(job: Job, part: string, editing: Editing): Job {
  return {
    ...job,
    parts: job.parts.map((candidate) => {
      if (candidate.id !== part) return candidate;
      if (!editing.isNew)
        return {
          ...candidate,
          steps: candidate.steps.map((step) => (step.id === editing.step.id ? editing.step : step)),
        };
      const copy = { ...candidate, steps: [...candidate.steps] };
      edits.addStep(copy, editing.step);
      return copy;
    }),
  };
}
