import { partsOf } from "../../steps";
import type { Job, Part, Step } from "../document";
import { type LinkStep, linkOf } from "./link";

/** The steps of a part that are linked to others, and to which. A copy of its own is linked to none. */
export function linksOf(part: Part): { step: Step; to: string }[] {
  return part.steps.flatMap((step) =>
    step.suppressed || isLoose(linkOf(step)) ? [] : partsOf(step).map((to) => ({ step, to })),
  );
}

const isLoose = (link: LinkStep | null) => link?.loose === true && link.taken !== null;

/** A part with all that it needs as that is now, through others too, by id: itself first. Parts that are gone are left out, and those that it took as they were. */
export function partsNeeded(job: Job, id: string): Part[] {
  const found = new Map<string, Part>();
  const take = (next: string): void => {
    const part = job.parts.find((candidate) => candidate.id === next);
    if (!part || found.has(next)) return;
    found.set(next, part);
    for (const { step, to } of linksOf(part)) if (!linkOf(step)?.taken) take(to);
  };
  take(id);
  return [...found.values()];
}

/** The steps of other parts that are linked to a part. */
export function needingPart(job: Job, id: string): { part: Part; step: Step }[] {
  return job.parts.flatMap((part) =>
    part.id === id ? [] : linksOf(part).flatMap(({ step, to }) => (to === id ? [{ part, step }] : [])),
  );
}

/**
 * The way by which a part comes to need another, as names of parts from the one to the other; null where it does not. What is
 * brought in from a part that needs this one would be needed by what it is made of.
 */
export function chainBetween(job: Job, from: string, to: string): string[] | null {
  const seen = new Set<string>();
  const find = (id: string): string[] | null => {
    const part = job.parts.find((candidate) => candidate.id === id);
    if (!part || seen.has(id)) return null;
    seen.add(id);
    if (id === to) return [part.name];
    for (const link of linksOf(part)) {
      const rest = find(link.to);
      if (rest) return [part.name, ...rest];
    }
    return null;
  };
  return find(from);
}
