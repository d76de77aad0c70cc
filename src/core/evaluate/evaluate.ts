import { fail } from "../errors";
import { chainBetween, isThere, type Job, jobOfKept, type LinkStep, liesIn, namedBy, type Part } from "../job";
import { fromNumbers, type Transform } from "../place";
import type { Live } from "./bench";
import { broughtOf } from "./brought";
import { PartRun, type Source } from "./part-run";
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

/**
 * What a link brings in, with the keys of what it is of, and how it lies in the part. @throws SeamError where it is not there
 */
export function brought(run: JobRun, link: LinkStep, part: Part): { items: Live[]; lies: Transform } {
  const { result, lies, name } = run.source(link, part);
  return { items: broughtOf(result.sheet, name, namedBy(link), link), lies };
}

/** What goes for all parts of a job alike. */
export type Shared = Pick<EvaluateOptions, "cache" | "file" | "stored" | "onStage">;

/** The parts of a job while some of them are built: each once. */
export class JobRun {
  private readonly done = new Map<string, PartResult>();
  /** What the job keeps of parts, as it is built: by id. */
  private readonly kept = new Map<string, JobRun>();

  /** @param inside the ids of what is kept that this is a part of */
  constructor(
    private readonly job: Job,
    private readonly options: Shared,
    private readonly inside: ReadonlySet<string> = new Set(),
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
      source: (link) => this.source(link, part),
      trial: (job, changed, upTo) => {
        const { cache, file } = this.options;
        return evaluatePart(job, changed, { cache, file, upTo, brisk: true }).steps;
      },
    }).all();
  }

  /** What a link takes something of, and how it lies in the part: as the job keeps it, or as it is now. */
  source(link: LinkStep, from: Part): Source {
    const part = this.job.parts.find(({ id }) => id === link.part);
    const { taken } = link;
    if (!link.loose || !taken) this.refuseCircle(link.part, from);
    if (!taken) {
      if (!part)
        fail("part-missing", "The part that something is brought in from is no longer in the job. Pick another.");
      const lies = liesIn(this.job, { from: part, at: link.at, to: from });
      if ("problem" in lies) fail("place-unknown", lies.problem);
      return { name: part.name, result: this.take(part), lies: lies.transform, isGone: false };
    }
    const { parts } = this.job.kept[taken.as]!;
    const [first] = parts;
    return {
      name: part?.name ?? first!.name,
      result: this.keptRun(taken.as).take(first!),
      lies: fromNumbers(taken.lies),
      isGone: !link.loose && !isThere(this.job.parts, link),
    };
  }

  private keptRun(id: string): JobRun {
    let run = this.kept.get(id);
    if (!run) {
      // What the program keeps never is: it is called by what it holds.
      if (this.inside.has(id)) fail("part-circle", "What was taken is made of itself. Take it anew.");
      const { onStage: _onStage, ...options } = this.options;
      run = new JobRun(jobOfKept(this.job, this.job.kept[id]!), options, new Set([...this.inside, id]));
      this.kept.set(id, run);
    }
    return run;
  }

  private refuseCircle(id: string, from: Part): void {
    // By the document alone, so that it is the same whichever part is built first.
    const chain = chainBetween(this.job, id, from.id)?.map((name) => `“${name}”`);
    if (chain)
      fail(
        "part-circle",
        chain.length === 1
          ? `${chain[0]} cannot bring in something of itself. Pick it directly.`
          : `A part cannot be made of what is made of it: “${from.name}” brings something in from ${chain.join(", and that from ")}. Take one of them out.`,
      );
  }
}
