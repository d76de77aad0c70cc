import { type CheckedBody, checkType, runCheck } from "@/core/check";
import { askedFits, type PartResult } from "@/core/evaluate";
import { has } from "@/core/items";
import { scopeOf } from "@/core/job";
import type { Operation } from "./operation";

/** Runs a check on all bodies of a part, as they are shown; of the whole job, where the check is asked for that. */
export const check: Operation<"check"> = async (workshop, { job, part, check, values }) => {
  const own = job.parts.find(({ id }) => id === part)!;
  const whole = checkType(check)?.wholeJob?.(values as never) ?? false;
  const built = new Map<string, PartResult>();
  const bodies: CheckedBody[] = [];
  for (const { id, name: partName } of whole ? job.parts : [own]) {
    const result = await workshop.build({ job, part: id, known: [] });
    built.set(id, result);
    for (const entry of result.bench) {
      const { item, name } = entry;
      if (!has(item, "body")) continue;
      const elsewhere = id === part ? null : partName;
      bodies.push({ body: item, name, part: id, elsewhere, ...workshop.views.meshOf(entry, result) });
    }
  }
  const fits = askedFits(job, (id) => built.get(id) ?? null);
  return runCheck(check, values, scopeOf(job, own), bodies, fits);
};
