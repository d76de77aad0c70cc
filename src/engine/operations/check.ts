import { type CheckedBody, checkType, runCheck } from "@/core/check";
import { fail } from "@/core/errors";
import { askedFits, type PartResult, placedBody } from "@/core/evaluate";
import { has } from "@/core/items";
import { liesIn, scopeOf, standsOf } from "@/core/job";
import type { Operation } from "./operation";

/** Runs a check on all bodies of a part, as they are shown; of the whole job where they stand, where the check is asked for that. */
export const check: Operation<"check"> = async (workshop, { job, part, check, values }) => {
  const own = job.parts.find(({ id }) => id === part)!;
  const whole = checkType(check)?.wholeJob?.(values as never) ?? false;
  const built = new Map<string, PartResult>();
  const bodies: CheckedBody[] = [];
  for (const from of whole ? job.parts : [own]) {
    const result = await workshop.build({ job, part: from.id, known: [] });
    built.set(from.id, result);
    for (const { at, name: standing } of whole ? standsOf(from) : [{ at: "", name: own.name }]) {
      const lies = liesIn(job, { from, at, to: own });
      if ("problem" in lies) fail("place-unknown", lies.problem);
      for (const entry of result.bench) {
        const { item, name } = entry;
        if (!has(item, "body")) continue;
        bodies.push({
          body: placedBody(workshop.cache, result, item, lies.transform),
          name,
          part: from.id,
          at,
          elsewhere: from.id === part && at === "" ? null : standing,
          ...workshop.views.meshOf(entry, result),
        });
      }
    }
  }
  const fits = askedFits(job, workshop.cache, (id) => built.get(id) ?? null);
  return runCheck(check, values, scopeOf(job, own), bodies, fits);
};
