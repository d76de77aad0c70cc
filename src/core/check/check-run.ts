import type * as z from "zod";
import type { Wanted } from "../fit/audit";
import type { Body } from "../items/body";
import type { ViewMesh } from "../items/view-mesh";
import type { Resolved } from "../params";
import type { CheckResult, CheckType } from "./declare";

/** A body as a check sees it. */
export interface CheckedBody {
  body: Body;
  name: string;
  meshId: string;
  /** As it is shown: values for its corners can be painted on it. */
  mesh: ViewMesh;
  /** The part that it is of, and its name where that is another than the one that is looked at. */
  part: string;
  /** At which of that part's places, by id; empty for its own. */
  at: string;
  elsewhere: string | null;
}

/** What a check does. */
export interface CheckRun<S extends z.ZodType = z.ZodType> {
  check: CheckType<S>;
  run(values: Resolved<z.infer<S>>, bodies: readonly CheckedBody[], fits: readonly AskedFit[]): CheckResult;
}

/** A fit that is wanted in the job, with its numbers worked out and the bodies that it means. */
export interface AskedFit {
  /** Its place in the job's list. */
  place: number;
  wanted: Wanted;
  /** What each end is called, and what it means: null where that is not there, or is several bodies. */
  ends: [FitEnd, FitEnd];
  /** What is wrong with how it is written; null where nothing. */
  problem: string | null;
}

export interface FitEnd {
  part: string;
  at: string;
  name: string;
  body: Body | null;
}

export function runs<S extends z.ZodType>(check: CheckType<S>, run: CheckRun<S>["run"]): CheckRun<S> {
  return { check, run };
}
