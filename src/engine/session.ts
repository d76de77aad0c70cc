import { SeamError } from "@/core/errors";
import {
  evaluatePart,
  fromStored,
  Held,
  type PartResult,
  pack,
  ResultCache,
  type Shared,
  type StepReport,
  type StoredResult,
  toStored,
  unpack,
  WARM_ROUNDS,
  warmUp,
} from "@/core/evaluate";
import { hashBytes } from "@/core/hash";
import type { Job, Part } from "@/core/job";
import { kernelHeapBytes } from "@/core/kernel";
import type { Answer, EngineApi, EngineConfig, OperationName, Operations, Progress } from "./contract";
import { OPERATIONS } from "./operations";
import type { BuildRequest, Workshop } from "./operations/operation";
import { asEngineFault } from "./tell-fault";
import { Views } from "./views";

/** Tells how far a build is: after each step, and what a step is at while it takes its time. */
function telling(progress: (progress: Progress) => void, { steps }: Part) {
  let done = 0;
  return {
    onStep: (report: StepReport, now: number, total: number) => {
      done = now;
      progress({ done, total, step: report.id });
    },
    onStage: (step: string, stage: string) => progress({ done, total: steps.length, step, stage }),
  };
}

/** What a host brings along: how to load the kernel and how to fetch bytes. */
export interface Surroundings {
  load(config: EngineConfig): Promise<void>;
  /** Loads what divides triangles, once. */
  loadTriangles(config: EngineConfig): Promise<void>;
  /** The bytes at an address; null when there are none. */
  fetch(url: string): Promise<Uint8Array | null>;
  store(url: string, bytes: Uint8Array): Promise<void>;
}

/** A step that took longer than this is worth storing, ms. */
const WORTH_STORING = 120;

/** The core behind the contract. Browser and Node workers expose one each. */
export class EngineSession implements EngineApi, Workshop {
  private config: EngineConfig = {};
  readonly cache = new ResultCache();
  private readonly held = new Held();
  private readonly files = new Map<string, Uint8Array>();
  private readonly warming = warmUp(WARM_ROUNDS);
  readonly views = new Views();

  constructor(private readonly surroundings: Surroundings) {}

  async start(config: EngineConfig): Promise<void> {
    this.config = config;
    await this.guard(() => this.surroundings.load(config));
  }

  warm(): Promise<boolean> {
    return this.guard(async () => {
      if (!this.warming.next().done) return true;
      // What divides triangles comes last: few steps are so slow that they need it.
      await this.triangles().catch(() => {});
      return false;
    });
  }

  run<N extends OperationName>(
    operation: N,
    request: Operations[N]["asks"],
    progress?: (progress: Progress) => void,
  ): Promise<Answer<Operations[N]["gives"]>> {
    return this.guard(async () => {
      const answer = await OPERATIONS[operation](this, request, progress);
      return { answer, heapBytes: kernelHeapBytes() };
    });
  }

  keep(result: PartResult): void {
    this.cache.trim(new Set(result.results.keys()));
    this.storeSlow(result);
  }

  triangles(): Promise<void> {
    return this.surroundings.loadTriangles(this.config);
  }

  async build(request: BuildRequest, progress?: (progress: Progress) => void): Promise<PartResult> {
    const { job, upTo, pieces, parties, brisk } = request;
    const part = job.parts.find((candidate) => candidate.id === request.part);
    if (!part) throw new SeamError({ code: "part-missing", message: "That part is no longer in the job." });
    const shared = await this.shared(job, request.files);
    const stored = await this.fetchStored(request.storedKeys ?? []);
    // With no step open nothing is held for one.
    if (!pieces && !parties) this.held.clear();
    // From here on it computes: whoever is patient only for so long counts from now.
    progress?.({ done: 0, total: part.steps.length, step: "" });
    return evaluatePart(job, part, {
      ...shared,
      stored: (key) => {
        const found = stored.get(key);
        return found ? fromStored(found) : undefined;
      },
      ...(upTo ? { upTo } : {}),
      ...(brisk ? { brisk } : {}),
      ...(pieces ? { pieces, held: this.held } : {}),
      ...(parties ? { parties } : {}),
      ...(progress ? telling(progress, part) : {}),
    });
  }

  async shared(job: Job, given?: BuildRequest["files"]): Promise<Shared> {
    await this.fetchFiles(job, given);
    return {
      cache: this.cache,
      file: (id) => this.files.get(job.files.find((file) => file.id === id)?.sha256 ?? ""),
    };
  }

  private async fetchFiles(job: Job, given: BuildRequest["files"] = {}): Promise<void> {
    for (const file of job.files) {
      // A file whose contents stand in the job is known by them, too.
      const own = file.text === undefined ? undefined : new TextEncoder().encode(file.text);
      if (own) file.sha256 ??= hashBytes(own);
      const { sha256 } = file;
      if (!sha256 || this.files.has(sha256)) continue;
      const bytes = own ?? given[sha256] ?? (await this.fetched(this.config.files, sha256));
      if (bytes) this.files.set(sha256, bytes);
    }
  }

  private async fetchStored(keys: readonly string[]): Promise<Map<string, StoredResult>> {
    const stored = new Map<string, StoredResult>();
    await Promise.all(
      keys
        .filter((key) => !this.cache.get(key))
        .map(async (key) => {
          try {
            const bytes = await this.fetched(this.config.geometry, key);
            if (bytes) stored.set(key, unpack(bytes) as StoredResult);
          } catch {
            // What was stored cannot be had or read: it is computed again.
          }
        }),
    );
    return stored;
  }

  private async fetched(base: string | undefined, key: string): Promise<Uint8Array | null> {
    return base ? this.surroundings.fetch(base + key) : null;
  }

  /** Stores what took long, for the next time; failing to is no loss. */
  private storeSlow(result: PartResult): void {
    const { geometry } = this.config;
    if (!geometry) return;
    for (const report of result.steps) {
      const made = report.key && report.ms > WORTH_STORING ? result.results.get(report.key) : undefined;
      if (made) this.surroundings.store(geometry + made.key, pack(toStored(made))).catch(() => {});
    }
  }

  private async guard<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (cause) {
      throw asEngineFault(cause);
    }
  }
}
