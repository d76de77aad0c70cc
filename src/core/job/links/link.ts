import type { Taken } from "../../place/taken";
import { elsewhereIn } from "../../references/marks";
import { stepType } from "../../steps/registry";
import type { Step } from "../document";

/** A step that brings something in from another part. */
export type LinkStep = Step & { part: string; at: string; items: string[]; loose: boolean; taken: Taken | null };

/** A step as one that brings something in; null where it does not. */
export const linkOf = (step: Step): LinkStep | null => (step.type === "bring-in" ? (step as LinkStep) : null);

/** All that a link names of the other part: items by id, and the bodies of what it names of those. */
export const namedBy = (link: LinkStep): string[] => elsewhereIn(stepType(link.type)!.schema, link).items;

/** Whether it can be told from the document that what a link takes is still made: its part is there, and the steps that make it are done there. */
export function isThere(parts: readonly { id: string; steps: Step[]; hold: string | null }[], link: LinkStep): boolean {
  const part = parts.find(({ id }) => id === link.part);
  if (!part) return false;
  const end = part.hold === null ? part.steps.length : part.steps.findIndex(({ id }) => id === part.hold) + 1;
  return namedBy(link).every((item) => {
    const at = part.steps.findIndex(({ id }) => id === item.split(":")[0]);
    return at >= 0 && at < end && !part.steps[at]!.suppressed;
  });
}
