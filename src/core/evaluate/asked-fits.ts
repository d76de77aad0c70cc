import type { AskedFit, FitEnd } from "../check";
import { type WantedFit, wantedFitSchema } from "../fit/audit";
import { isBody } from "../items";
import { type Job, scopeOf } from "../job";
import { resolveQuantities } from "../params";
import type { PartResult } from "./types";

/** The fits that are wanted in a job, with the bodies that they mean now. @param built what came of a part; null where it is not built */
export function askedFits(job: Job, built: (part: string) => PartResult | null): AskedFit[] {
  const scope = scopeOf(job, undefined);
  return job.fits.flatMap((fit, place): AskedFit[] => {
    const { values, problems } = resolveQuantities(wantedFitSchema, fit, scope);
    const [problem] = Object.values(problems);
    const ends = [fit.one, fit.other].map((end) => endOf(job, end, built));
    if (ends.includes(null)) return [];
    const { want, least, most } = values;
    return [
      { place, wanted: { want, least, most } as never, ends: ends as [FitEnd, FitEnd], problem: problem ?? null },
    ];
  });
}

/** What an end means now; null where its part is not looked at. */
function endOf(job: Job, { part, body }: WantedFit["one"], built: (part: string) => PartResult | null): FitEnd | null {
  const own = job.parts.find(({ id }) => id === part);
  if (!own) return { part, name: "A body of a part that is gone", body: null };
  const result = built(part);
  if (!result) return null;
  // A body that was changed is the same one still; one that was divided is not.
  const found = result.sheet.find(body).map(({ item }) => item);
  const bodies = found.filter(isBody);
  const name = result.bench.find(({ item }) => item.id === bodies[0]?.id)?.name ?? own.names[body] ?? body;
  return { part, name, body: bodies.length === 1 ? bodies[0]! : null };
}
