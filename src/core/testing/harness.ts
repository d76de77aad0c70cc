import { type BodyReport, reportBody } from "../check";
import { SeamError } from "../errors";
import { type EvaluateOptions, evaluatePart, type PartResult, ResultCache } from "../evaluate";
import { type Body, isBody } from "../items";
import { checkJob, type Job } from "../job";

/** Shared by the tests: a job of one part from its steps. */
export function jobOf(steps: Record<string, unknown>[], more: Record<string, unknown> = {}): Job {
  return checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Test",
    parts: [{ id: "part", name: "Part", steps }],
    ...more,
  });
}

export interface Built extends PartResult {
  bodies: Body[];
  reports: BodyReport[];
  step(id: string): PartResult["steps"][number];
  named(name: string): Body;
}

/** Builds the first part of a job. */
export function build(job: Job, options: Partial<EvaluateOptions> = {}): Built {
  const result = evaluatePart(job, job.parts[0]!, { cache: new ResultCache(), file: () => undefined, ...options });
  const bodies = result.bench.map(({ item }) => item).filter(isBody);
  return {
    ...result,
    bodies,
    reports: result.bench.flatMap(({ item, name }) =>
      isBody(item) ? [reportBody(item.id, name, item.kind, item.shape)] : [],
    ),
    step: (id) => result.steps.find((step) => step.id === id)!,
    named(name) {
      const found = result.bench.filter((entry) => entry.name === name);
      if (found.length !== 1)
        throw new Error(`${found.length} items are called ${name}: ${result.bench.map((b) => b.name).join(", ")}`);
      return found[0]!.item as Body;
    },
  };
}

export const buildSteps = (...steps: Record<string, unknown>[]) => build(jobOf(steps));

/** Sum of the volumes of the solids whose id begins with a step's id. */
export function volumeOfStep(built: Built, step: string): number {
  return built.reports
    .filter((report) => report.id.startsWith(`${step}:`) && report.volume !== null)
    .reduce((sum, report) => sum + report.volume!, 0);
}

export function relative(value: number, expected: number): number {
  return Math.abs(value - expected) / Math.abs(expected);
}

/** The sentence of the error that an action raises, which has to be one of the project's own. */
export function messageOf(action: () => unknown): string {
  try {
    action();
  } catch (cause) {
    if (cause instanceof SeamError) return cause.message;
    throw cause;
  }
  throw new Error("no error was raised");
}
