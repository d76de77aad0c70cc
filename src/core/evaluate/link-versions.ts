import { fail } from "../errors";
import { handlingOf, type Item } from "../items";
import { inPlace } from "../items/in-place";
import { type Job, linkOf, type Part } from "../job";
import { brought, JobRun, type Shared } from "./evaluate";

/** Something that was brought in, as it was taken and as it is now; null where it was not, or is not. They lie as in the part that brings them in. */
export interface LinkVersion {
  name: string;
  was: Item | null;
  now: Item | null;
}

/**
 * What a link took, as it was and as its source has it now. @returns them, and how to let go of them
 * @throws SeamError where the step brings nothing in, or what it is of cannot be had now
 */
export function linkVersions(
  job: Job,
  options: Shared,
  part: Part,
  step: string,
): { versions: LinkVersion[]; free(): void } {
  const written = part.steps.find(({ id }) => id === step);
  const link = written && linkOf(written);
  if (!link) fail("link-gone", "That step brings nothing in any more.");
  const run = new JobRun(job, options);
  const now = brought(run, { ...link, taken: null }, part);
  const then = link.taken ? brought(run, link, part) : now;
  const versions = new Map<string, LinkVersion>();
  for (const [key, { items, lies, sheet }] of [
    ["was", then],
    ["now", now],
  ] as const)
    for (const { item } of items) {
      const known = versions.get(item.id) ?? { name: sheet.nameOf(item.id), was: null, now: null };
      versions.set(item.id, { ...known, [key]: inPlace(item, lies) });
    }
  const all = [...versions.values()];
  const free = () => {
    for (const item of all.flatMap((one) => [one.was, one.now])) if (item) handlingOf(item).free(item);
  };
  return { versions: all, free };
}
