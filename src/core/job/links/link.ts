import type { Taken } from "../../place/taken";
import type { Step } from "../document";

/** A step that brings something in from another part. */
export type LinkStep = Step & { part: string; at: string; items: string[]; loose: boolean; taken: Taken | null };

/** A step as one that brings something in; null where it does not. */
export const linkOf = (step: Step): LinkStep | null => (step.type === "bring-in" ? (step as LinkStep) : null);

/** Whether it can be told from the document that what a link takes is still made: its part is there, and the steps that make it are done there. */
export function isThere(parts: readonly { id: string; steps: Step[]; hold: string | null }[], link: LinkStep): boolean {
  const part = parts.find(({ id }) => id === link.part);
  if (!part) return false;
  const end = part.hold === null ? part.steps.length : part.steps.findIndex(({ id }) => id === part.hold) + 1;
  return link.items.every((item) => {
    const at = part.steps.findIndex(({ id }) => id === item.split(":")[0]);
    return at >= 0 && at < end && !part.steps[at]!.suppressed;
  });
}
