import type { PartResult, ResultCache, Shared as SharedOptions } from "@/core/evaluate";
import type { Job } from "@/core/job";
import type { EvaluateRequest, OperationName, Operations, Progress } from "../contract";
import type { Views } from "../views";

/** What is to be built. */
export interface BuildRequest extends EvaluateRequest {
  /** The step of which only what it divides is wanted, and by what. */
  parties?: string;
}

/** What an operation has to work with: the parts that are built, and how they are seen. */
export interface Workshop {
  /** Builds a part, from what is at hand where it is. @throws SeamError */
  build(request: BuildRequest, progress?: (progress: Progress) => void): Promise<PartResult>;
  /** What parts of a job are built with: what is at hand, and its files. */
  shared(job: Job, files?: BuildRequest["files"]): Promise<SharedOptions>;
  /** What divides triangles, loaded before they are. */
  triangles(): Promise<void>;
  /** Keeps what a part was built of, lets go of the rest, and stores what took long. */
  keep(result: PartResult): void;
  views: Views;
  /** Where what is built is kept. */
  cache: ResultCache;
}

/** How one operation of the engine is done. */
export type Operation<N extends OperationName> = (
  workshop: Workshop,
  request: Operations[N]["asks"],
  progress?: (progress: Progress) => void,
) => Promise<Operations[N]["gives"]>;
