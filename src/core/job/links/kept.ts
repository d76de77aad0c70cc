import { hashValue } from "../../hash";
import { namesUsed, type Parameter } from "../../params";
import { stepFormulas } from "../../steps/values";
import type { Job, Part } from "../document";
import { partsNeeded } from "./chains";

/** A part as it was when something was taken of it, with all that it needed for it: its parts, itself first, and those of the job's parameters that they used. */
export interface Kept {
  parameters: Parameter[];
  parts: Part[];
}

/** A part as it is now, as the job would keep it: by an id that is of what it holds, so that the same is kept once. Null where it is not in the job. */
export function keptPart(job: Job, id: string): { id: string; kept: Kept } | null {
  const parts = partsNeeded(job, id).map(bare);
  if (parts.length === 0) return null;
  const kept = { parameters: parametersIn(job.parameters, parts), parts };
  return { id: `k${hashValue(kept).slice(0, 24)}`, kept };
}

/** Without what changes nothing that is built. */
const bare = (part: Part): Part => ({ ...part, looks: {}, groups: [], notes: [], views: [] });

/** Those of the job's parameters that parts use, by way of others too. */
function parametersIn(all: readonly Parameter[], parts: readonly Part[]): Parameter[] {
  const wanted = new Set<string>();
  const byName = new Map(all.map((parameter) => [parameter.name, parameter] as const));
  const use = (formula: number | string): void => {
    for (const name of namesUsed(formula)) {
      const parameter = byName.get(name);
      if (!parameter || wanted.has(name)) continue;
      wanted.add(name);
      use(parameter.formula);
    }
  };
  for (const { parameters, places, steps } of parts) {
    for (const { formula } of parameters) use(formula);
    for (const { by, turn } of places) for (const value of [...by, turn]) use(value);
    for (const step of steps) for (const { formula } of stepFormulas(step)) use(formula);
  }
  return all.filter(({ name }) => wanted.has(name));
}

/** A job as it was for what it keeps: with the parts and parameters of then. */
export const jobOfKept = (job: Job, { parameters, parts }: Kept): Job => ({ ...job, parameters, parts });
