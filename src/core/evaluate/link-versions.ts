import { fail, SeamError } from "../errors";
import type { Item } from "../items";
import { type Job, type LinkStep, linkOf, type Part } from "../job";
import { JobRun, type Shared } from "./evaluate";

/** Something that was brought in, as it was taken and as it is now; null where it was not, or is not. They lie as in the part that brings them in. */
export interface LinkVersion {
  name: string;
  was: Item | null;
  now: Item | null;
}

/**
 * What a link brings in as it was taken, and as its source has it now. They belong to the cache.
 * @throws SeamError where the step brings nothing in, or what it is of cannot be had now
 */
export function linkVersions(job: Job, options: Shared, part: Part, step: string): LinkVersion[] {
  const written = part.steps.find(({ id }) => id === step);
  const link = written && linkOf(written);
  if (!link) fail("link-gone", "That step brings nothing in any more.");
  const run = new JobRun(job, options);
  const made = (one: LinkStep) => {
    const alone = { ...part, steps: [{ ...one, suppressed: false }], hold: null };
    const { steps, bench } = run.build(alone, options);
    const { error } = steps[0]!;
    if (error) throw new SeamError(error);
    return bench;
  };
  const versions = new Map<string, LinkVersion>();
  for (const [key, bench] of [
    ["was", made(link)],
    ["now", made({ ...link, taken: null })],
  ] as const)
    for (const { item, name } of bench) {
      const known = versions.get(item.id) ?? { name, was: null, now: null };
      versions.set(item.id, { ...known, [key]: item });
    }
  return [...versions.values()];
}
