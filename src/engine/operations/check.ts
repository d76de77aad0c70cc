import { runCheck } from "@/core/check";
import { has } from "@/core/items";
import { scopeOf } from "@/core/job";
import type { Operation } from "./operation";

/** Runs a check on all bodies of a part, as they are shown. */
export const check: Operation<"check"> = async (workshop, { job, part, check, values }) => {
  const result = await workshop.build({ job, part, known: [] });
  const bodies = result.bench.flatMap((entry) => {
    const { item, name } = entry;
    return has(item, "body") ? [{ body: item, name, ...workshop.views.meshOf(entry, result) }] : [];
  });
  const own = job.parts.find(({ id }) => id === part)!;
  return runCheck(check, values, scopeOf(job, own), bodies);
};
