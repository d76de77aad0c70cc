import type { AskedFit, FitEnd } from "../check";
import { type WantedFit, wantedFitSchema } from "../fit/audit";
import { type Body, isBody } from "../items";
import { type Job, liesIn, scopeOf } from "../job";
import { resolveQuantities } from "../params";
import type { ResultCache } from "./cache";
import { placedBody } from "./placed-body";
import type { PartResult } from "./types";

/**
 * The fits that are wanted in a job, with the bodies that they mean now, the other as it lies to the one by where their parts stand.
 * @param built what came of a part; null where it is not built
 */
export function askedFits(job: Job, cache: ResultCache, built: (part: string) => PartResult | null): AskedFit[] {
  const scope = scopeOf(job, undefined);
  return job.fits.flatMap((fit, place): AskedFit[] => {
    const { values, problems } = resolveQuantities(wantedFitSchema, fit, scope);
    let [problem] = Object.values(problems);
    const ends = [fit.one, fit.other].map((end) => endOf(job, end, built));
    if (ends.includes(null)) return [];
    const [one, other] = ends as [FitEnd, FitEnd];
    if (other.body) {
      const lies = otherLies(job, fit);
      if ("problem" in lies) problem ??= lies.problem;
      else other.body = placedBody(cache, built(other.part)!, other.body, lies.transform);
    }
    const { want, least, most } = values;
    return [{ place, wanted: { want, least, most } as never, ends: [one, other], problem: problem ?? null }];
  });
}

/** How the other body lies in the part of the one, that standing where its end says. */
function otherLies(job: Job, { one, other }: WantedFit): ReturnType<typeof liesIn> {
  const [from, to] = [other, one].map(({ part }) => job.parts.find(({ id }) => id === part));
  if (!from || !to) return { problem: "A body of a part that is gone" };
  return liesIn(job, { from, at: other.at, to, toAt: one.at });
}

/** What an end means now; null where its part is not looked at. */
function endOf(
  job: Job,
  { part, body, at }: WantedFit["one"],
  built: (part: string) => PartResult | null,
): FitEnd | null {
  const own = job.parts.find(({ id }) => id === part);
  if (!own) return { part, at, name: "A body of a part that is gone", body: null };
  const result = built(part);
  if (!result) return null;
  // A body that was changed is the same one still; one that was divided is not.
  const found = result.sheet.find(body).map(({ item }) => item);
  const bodies: Body[] = found.filter(isBody);
  const name = result.bench.find(({ item }) => item.id === bodies[0]?.id)?.name ?? own.names[body] ?? body;
  return { part, at, name, body: bodies.length === 1 ? bodies[0]! : null };
}
