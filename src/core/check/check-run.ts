import type * as z from "zod";
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
}

/** What a check does. */
export interface CheckRun<S extends z.ZodType = z.ZodType> {
  check: CheckType<S>;
  run(values: Resolved<z.infer<S>>, bodies: readonly CheckedBody[]): CheckResult;
}

export function runs<S extends z.ZodType>(check: CheckType<S>, run: CheckRun<S>["run"]): CheckRun<S> {
  return { check, run };
}
