import { fail } from "../errors";
import { stepType } from "../steps/registry";
import { refsOf } from "../steps/values";
import { type Job, jobSchema, type Step } from "./document";

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
  const result = jobSchema.safeParse(value);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    const more = result.error.issues.length > 1 ? ` (and ${result.error.issues.length - 1} more)` : "";
    fail(
      "job-invalid",
      `The job file cannot be used: ${placeOf(issue.path, value)} ${issue.message}${more}.`.replace(/\.\.$/, "."),
    );
  }
  const job = result.data as unknown as Job;
  refuseCycles(job);
  return job;
}

function unknownStep(value: unknown): string | null {
  const parts = (value as { parts?: unknown })?.parts;
  if (!Array.isArray(parts)) return null;
  for (const part of parts)
    for (const step of Array.isArray(part?.steps) ? part.steps : []) {
      const type = (step as Step | null)?.type;
      if (typeof type === "string" && !stepType(type))
        return `The step “${(step as Step).id}” has the unknown type “${type}”. Use one of the types that the schema lists.`;
    }
  return null;
}

function placeOf(path: PropertyKey[], value: unknown): string {
  const [list, p, steps, s, ...rest] = path;
  if (list === "parts" && steps === "steps" && typeof p === "number" && typeof s === "number") {
    const step = (value as { parts: { steps: Step[] }[] }).parts[p]?.steps?.[s];
    if (step?.id) return `step “${String(step.id)}”${rest.length ? `, ${rest.join(".")}` : ""}:`;
  }
  return path.length ? `${path.join(".")}:` : "it";
}

/** The steps whose results a step names, by id: `s3:block` names `s3`. */
export function stepsNeeded(step: Step): string[] {
  return [...new Set(refsOf(step).map((ref) => ref.split(":")[0]!))];
}

/** A sheet runs from top to bottom: two steps that need each other can never be built. */
function refuseCycles(job: Job): void {
  for (const part of job.parts) {
    const byId = new Map(part.steps.map((step) => [step.id, step] as const));
    const state = new Map<string, "open" | "done">();
    const visit = (id: string, trail: string[]): void => {
      if (state.get(id) === "done") return;
      if (state.get(id) === "open") {
        const loop = [...trail.slice(trail.indexOf(id)), id].map((name) => `“${name}”`).join(" → ");
        fail(
          "step-cycle",
          `These steps need each other in a circle: ${loop}. Let one of them refer to something earlier.`,
          { step: id },
        );
      }
      state.set(id, "open");
      for (const needed of stepsNeeded(byId.get(id)!)) if (byId.has(needed)) visit(needed, [...trail, id]);
      state.set(id, "done");
    };
    for (const step of part.steps) visit(step.id, []);
  }
}
