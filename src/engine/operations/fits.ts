import { fitsOf } from "@/core/check";
import { askedFits, type PartResult } from "@/core/evaluate";
import type { Operation } from "./operation";

/** Holds the bodies of a job against every fit that is wanted of them. */
export const fits: Operation<"fits"> = async (workshop, { job }) => {
  const built = new Map<string, PartResult>();
  const named = new Set(job.fits.flatMap(({ one, other }) => [one.part, other.part]));
  for (const { id } of job.parts) if (named.has(id)) built.set(id, await workshop.build({ job, part: id, known: [] }));
  return fitsOf(askedFits(job, workshop.cache, (id) => built.get(id) ?? null));
};
