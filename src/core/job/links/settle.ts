import { current, isDraft } from "immer";
import { numbersOf } from "../../place";
import type { Job, Part } from "../document";
import { keptPart } from "./kept";
import { isThere, type LinkStep, linkOf, namedBy } from "./link";
import { liesIn } from "./standing";

/**
 * After an edit: what was brought in stays as it was taken until it is refreshed, unless the job says that it follows; a copy of its own stays
 * for good. So what has just been picked is taken as it is now, what an edit would change of what was never taken is taken as it was before, and
 * where a job follows, nothing is kept but of what is gone. What nothing means any more is let go of.
 *
 * @param job is edited in place.
 */
export function settleLinks(job: Job, before: Job): void {
  const anyLink = (one: Job) => one.parts.some(({ steps }) => steps.some((step) => linkOf(step)));
  if (!anyLink(job)) {
    if (Object.keys(job.kept).length > 0) job.kept = {};
    return;
  }
  const now = isDraft(job) ? current(job) : job;
  for (const [p, part] of now.parts.entries())
    for (const [s, step] of part.steps.entries()) {
      const link = linkOf(step);
      if (!link) continue;
      const was = wasOf(before, part.id, step.id);
      const how = howTaken(now, before, link, was);
      const own = job.parts[p]!.steps[s] as LinkStep;
      if (how === "as it is") continue;
      if (how === "follows") own.taken = null;
      else takeFrom(job, own, how === "now" ? now : before, part.id);
    }
  dropUnused(job);
}

const wasOf = (before: Job, part: string, step: string): LinkStep | null => {
  const found = before.parts.find(({ id }) => id === part)?.steps.find(({ id }) => id === step);
  return found ? linkOf(found) : null;
};

/** By what a link is to be taken: as the job is now, or as it was before the edit; that it follows; or that nothing is to be done. */
function howTaken(
  now: Job,
  before: Job,
  link: LinkStep,
  was: LinkStep | null,
): "now" | "before" | "follows" | "as it is" {
  if (link.part === "" || namedBy(link).length === 0) return link.taken ? "follows" : "as it is";
  const same = was !== null && samePick(was, link);
  const there = isThere(now.parts, link);
  if (link.taken && !same && there && was !== null) return now.follow && !link.loose ? "follows" : "now";
  if (link.loose) return link.taken ? "as it is" : "now";
  if (now.follow && there) return link.taken ? "follows" : "as it is";
  if (link.taken) return "as it is";
  return same && isThere(before.parts, was) ? "before" : there ? "now" : "as it is";
}

const samePick = (one: LinkStep, other: LinkStep) =>
  one.part === other.part &&
  one.at === other.at &&
  JSON.stringify([one.items, one.faces, one.edges]) === JSON.stringify([other.items, other.faces, other.edges]);

/** Takes what a link names as it is in a job: kept, with how it lay. What cannot be told is left to follow, and says why. */
function takeFrom(job: Job, link: LinkStep, source: Job, part: string): void {
  const from = source.parts.find(({ id }) => id === link.part);
  const to = source.parts.find(({ id }) => id === part);
  const found = keptPart(source, link.part);
  const lies = from && to ? liesIn(source, { from, at: link.at, to }) : null;
  if (!found || !lies || "problem" in lies) return;
  job.kept[found.id] ??= found.kept;
  link.taken = { as: found.id, lies: numbersOf(lies.transform) };
}

/** Takes links of a job as what they name is now: those that are asked for, and first those that these are made of. Edits the job in place. */
export function refreshLinks(job: Job, wanted: (part: Part, link: LinkStep) => boolean): void {
  const done = new Set<string>();
  const refresh = (part: Part): void => {
    if (done.has(part.id)) return;
    done.add(part.id);
    for (const step of part.steps) {
      const link = linkOf(step);
      if (!link || link.loose || !wanted(part, link)) continue;
      const source = job.parts.find(({ id }) => id === link.part);
      if (!source) continue;
      refresh(source);
      const now = isDraft(job) ? current(job) : job;
      if (!isThere(now.parts, link)) continue;
      if (job.follow) link.taken = null;
      else takeFrom(job, link, now, part.id);
    }
  };
  for (const part of job.parts) refresh(part);
  dropUnused(job);
}

/** Lets go of what is kept and nothing means any more. */
function dropUnused(job: Job): void {
  const used = new Set<string>();
  const use = (parts: readonly Part[]): void => {
    for (const { steps } of parts)
      for (const step of steps) {
        const as = linkOf(step)?.taken?.as;
        if (as === undefined || used.has(as)) continue;
        used.add(as);
        const kept = job.kept[as];
        if (kept) use(kept.parts);
      }
  };
  use(job.parts);
  for (const id of Object.keys(job.kept)) if (!used.has(id)) delete job.kept[id];
}
