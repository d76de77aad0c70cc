import { fail } from "../errors";
import { inWords } from "../issues";
import { STEP_TYPES, stepType } from "../steps/registry";
import { refsOf } from "../steps/values";
import { type Job, jobSchema, type Step } from "./document";
import { placeInWords, stepInWords } from "./place";
import { upgradeJob } from "./upgrade";

/** Reads a job from JSON text. @throws SeamError with one sentence that says where and what to do. */
export function parseJob(text: string): Job {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    const odd = /[:[,\s](NaN|-?Infinity)\b/.exec(text);
    fail(
      "job-not-json",
      odd
        ? `The job file holds ${odd[1]}, which is not a number. Give a finite number.`
        : "The job file is not valid JSON. Mend its syntax, or save the job again.",
    );
  }
  return checkJob(value);
}

/** Checks a value to be a job and fills in defaults. @throws SeamError */
export function checkJob(value: unknown): Job {
  const unknown = unknownStep(value);
  if (unknown) fail("step-unknown", unknown);
  const upgraded = upgradeJob(value);
  const result = jobSchema.safeParse(upgraded);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    const others = result.error.issues.length - 1;
    const more = others > 0 ? ` ${others === 1 ? "One more place is" : `${others} more places are`} wrong.` : "";
    fail(
      "job-invalid",
      `The job cannot be used. ${placeInWords(issue.path, upgraded)}: ${inWords(issue, upgraded)}.${more}`,
    );
  }
  const job = result.data as unknown as Job;
  refuseCycles(job);
  return job;
}

function unknownStep(value: unknown): string | null {
  const parts = (value as { parts?: unknown })?.parts;
  if (!Array.isArray(parts)) return null;
  for (const [p, part] of parts.entries())
    for (const [s, step] of (Array.isArray(part?.steps) ? part.steps : []).entries()) {
      const type = (step as Step | null)?.type;
      if (typeof type === "string" && !stepType(type))
        return `${stepInWords(value, p, s)} is of the type “${type.slice(0, 60)}”, which is not known. Use one of: ${STEP_TYPES.map((known) => known.type).join(", ")}.`;
    }
  return null;
}

/** The steps whose results a step names, by id: `s3:block` names `s3`. */
export function stepsNeeded(step: Step): string[] {
  return [...new Set(refsOf(step).map((ref) => ref.split(":")[0]!))];
}

/** A sheet runs from top to bottom: two steps that need each other can never be built. */
function refuseCycles(job: Job): void {
  for (const part of [...job.parts, ...Object.values(job.kept).flatMap(({ parts }) => parts)]) {
    const byId = new Map(part.steps.map((step) => [step.id, step] as const));
    const state = new Map<string, "open" | "done">();
    /** Walked without calling itself: a part may be a chain of thousands. */
    const visit = (start: string): void => {
      const trail: { id: string; needs: string[] }[] = [];
      const enter = (id: string) => {
        state.set(id, "open");
        trail.push({ id, needs: stepsNeeded(byId.get(id)!).filter((needed) => byId.has(needed)) });
      };
      if (!state.has(start)) enter(start);
      for (let top = trail.at(-1); top; top = trail.at(-1)) {
        const needed = top.needs.pop();
        if (needed === undefined) {
          state.set(top.id, "done");
          trail.pop();
        } else if (state.get(needed) === "open") refuseCircle([...trail.map(({ id }) => id), needed], byId);
        else if (!state.has(needed)) enter(needed);
      }
    };
    for (const step of part.steps) visit(step.id);
  }
}

/** Each step of the circle is named as a person knows it. */
function refuseCircle(trail: readonly string[], byId: ReadonlyMap<string, Step>): never {
  const last = trail.at(-1)!;
  const circle = trail.slice(trail.indexOf(last));
  const called = circle.map((id) => `“${byId.get(id)!.name ?? id}”`);
  if (circle.length === 2)
    fail("step-cycle", `The step ${called[0]} needs itself. Let it refer to something earlier.`, { step: last });
  fail(
    "step-cycle",
    `These steps need each other in a circle: ${called.join(" → ")}. Let one of them refer to something earlier.`,
    { step: last },
  );
}
