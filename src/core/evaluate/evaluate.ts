import { fail } from "../errors";
import { chainBetween, type Job, type Part } from "../job";
import { PartRun } from "./part-run";
import type { EvaluateOptions, PartResult } from "./types";

/**
 * Builds a part: its steps in order, each from the items that it names. A step whose own values and items are
 * unchanged is taken from the cache. A failing step leaves its items as they were; steps that need what it would
 * have made wait, the others go on.
 */
export function evaluatePart(job: Job, part: Part, options: EvaluateOptions): PartResult {
  return new JobRun(job, options).build(part, options);
}

/** Builds parts of a job, all where none are named, over one cache, each after those that it brings something in from; by id, in their order. */
export function evaluateJob(job: Job, options: Shared, parts: readonly Part[] = job.parts): Map<string, PartResult> {
  const run = new JobRun(job, options);
  return new Map(parts.map((part) => [part.id, run.take(part)] as const));
}

/** What goes for all parts of a job alike. */
type Shared = Pick<EvaluateOptions, "cache" | "file" | "stored" | "onStage">;

/** The parts of a job while some of them are built: each once. */
class JobRun {
  private readonly done = new Map<string, PartResult>();

  constructor(
    private readonly job: Job,
    private readonly options: Shared,
  ) {}

  /** A part as it stands, built when it is asked for the first time. */
  take(part: Part): PartResult {
    let result = this.done.get(part.id);
    if (!result) {
      const { cache, file, stored, onStage } = this.options;
      result = this.build(part, {
        cache,
        file,
        ...(stored ? { stored } : {}),
        ...(onStage ? { onStage } : {}),
      });
      this.done.set(part.id, result);
    }
    return result;
  }

  build(part: Part, options: EvaluateOptions): PartResult {
    return new PartRun(this.job, part, options, {
      part: (id) => this.other(id, part),
      trial: (job, changed, upTo) => {
        const { cache, file } = this.options;
        return evaluatePart(job, changed, { cache, file, upTo, trial: true }).steps;
      },
    }).all();
  }

  private other(id: string, from: Part): PartResult {
    // By the document alone, so that it is the same whichever part is built first.
    const chain = chainBetween(this.job, id, from.id)?.map((name) => `“${name}”`);
    if (chain)
      fail(
        "part-circle",
        chain.length === 1
          ? `${chain[0]} cannot bring in something of itself. Pick it directly.`
          : `A part cannot be made of what is made of it: “${from.name}” brings something in from ${chain.join(", and that from ")}. Take one of them out.`,
      );
    const part = this.job.parts.find((candidate) => candidate.id === id);
    if (!part)
      fail("part-missing", "The part that something is brought in from is no longer in the job. Pick another.");
    return this.take(part);
  }
}
