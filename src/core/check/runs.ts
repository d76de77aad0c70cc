import { fail } from "../errors";
import { inWords } from "../issues";
import { resolveQuantities, type Scope } from "../params";
import type { AskedFit, CheckedBody, CheckRun } from "./check-run";
import type { CheckResult } from "./declare";
import { runDraft } from "./draft/run";
import { runFit } from "./fit/run";
import { runOpenEdges } from "./open-edges/run";

const RUNS = [runOpenEdges, runDraft, runFit] as unknown as readonly CheckRun[];

/** Runs a check on bodies. @param scope what its formulas may name. @param fits what is wanted between bodies of the job. @throws SeamError `check-unknown`, `value` */
export function runCheck(
  id: string,
  written: unknown,
  scope: Scope,
  bodies: readonly CheckedBody[],
  fits: readonly AskedFit[] = [],
): CheckResult {
  const found = RUNS.find(({ check }) => check.id === id);
  if (!found) fail("check-unknown", `“${id}” is no check.`);
  const { schema, fields } = found.check;
  const parsed = schema.safeParse(written);
  const { values, problems } = parsed.success
    ? resolveQuantities(schema, parsed.data, scope)
    : {
        values: null,
        problems: Object.fromEntries(
          parsed.error.issues.map((issue) => [issue.path.join("."), inWords(issue, written)]),
        ),
      };
  const [first] = Object.entries(problems);
  if (first) {
    const label = fields.find(({ key }) => key === first[0].split(".")[0])?.label;
    fail("value", `${label ? `${label}: ` : ""}${first[1]}`);
  }
  return found.run(values as never, bodies, fits);
}
