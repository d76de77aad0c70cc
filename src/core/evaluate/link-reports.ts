import { SeamError } from "../errors";
import { isThere, type Job, keptPart, type LinkStep, liesIn, linkOf, type Part } from "../job";
import { numbersOf } from "../place";
import { brought, JobRun, type Shared } from "./evaluate";

/** How something that was brought in stands to what it is of. */
export interface LinkReport {
  /** The part that brings it in, and the step that does: by id. */
  part: string;
  step: string;
  /** The part that it is of: by id, and what it is called. */
  from: string;
  fromName: string;
  /** As it is there now; not as it is there now; not there any more; a copy of its own. Null where it cannot be told. */
  state: "current" | "stale" | "gone" | "loose" | null;
  words: string;
}

/**
 * How all that parts bring in stands to what it is of. What was taken is held against the part as it is now by the keys of what it names, which are of all
 * that it is made of: the part is built for that, unless it is word for word as it was.
 */
export function linkReports(job: Job, options: Shared, parts: readonly Part[] = job.parts): LinkReport[] {
  const run = new JobRun(job, options);
  return parts.flatMap((part) =>
    part.steps.flatMap((step): LinkReport[] => {
      const link = linkOf(step);
      if (!link || link.suppressed || link.part === "") return [];
      const source = job.parts.find(({ id }) => id === link.part);
      const kept = link.taken ? job.kept[link.taken.as]?.parts[0] : undefined;
      const fromName = source?.name ?? kept?.name ?? "a part that is gone";
      return [{ part: part.id, step: step.id, from: link.part, fromName, ...stateOf(job, part, link, run, fromName) }];
    }),
  );
}

function stateOf(job: Job, part: Part, link: LinkStep, run: JobRun, name: string): Pick<LinkReport, "state" | "words"> {
  const { taken } = link;
  const source = job.parts.find(({ id }) => id === link.part);
  if (link.loose && taken) return { state: "loose", words: `A copy of its own, taken of “${name}”.` };
  if (!source) return { state: "gone", words: `“${name}” is no longer in the job.` };
  if (!isThere(job.parts, link)) return { state: "gone", words: `“${name}” no longer makes what was brought in.` };
  if (!taken) return { state: "current", words: job.follow ? `Follows “${name}”.` : `As in “${name}”.` };
  const lies = liesIn(job, { from: source, at: link.at, to: part });
  if ("problem" in lies) return { state: "gone", words: lies.problem };
  const moved = numbersOf(lies.transform).some((value, i) => value !== taken.lies[i]);
  // Word for word as it was, it need not be built.
  if (!moved && keptPart(job, link.part)?.id === taken.as) return { state: "current", words: `As in “${name}”.` };
  try {
    const now = brought(run, { ...link, taken: null }, part);
    const then = brought(run, link, part);
    if (keysOf(now) !== keysOf(then)) return { state: "stale", words: `“${name}” has changed since it was taken.` };
  } catch (cause) {
    if (!(cause instanceof SeamError)) throw cause;
    return { state: "gone", words: cause.message };
  }
  return moved
    ? { state: "stale", words: `“${name}” lies otherwise to this part since it was taken.` }
    : { state: "current", words: `As in “${name}”.` };
}

const keysOf = (found: ReturnType<typeof brought>) =>
  JSON.stringify(found.items.map(({ item, key }) => [item.id, key]));
