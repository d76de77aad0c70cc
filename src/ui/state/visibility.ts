import type { Part, Step } from "@/core/job";
import { refsOf } from "@/core/steps";
import { type ItemView, isBodyView } from "@/engine/contract";
import type { WorkspaceStore } from "./workspace-store";

type Choices = Pick<WorkspaceStore, "hidden" | "shown" | "alone">;

const known = new WeakMap<readonly Step[], ReadonlySet<string>>();

/** All that steps of a part name: items by id, or steps for what they made. */
function namedBySteps({ steps }: Part): ReadonlySet<string> {
  let named = known.get(steps);
  if (!named) {
    const refs = (step: Step) => (step.suppressed ? [] : refsOf(step));
    named = new Set(steps.flatMap(refs));
    known.set(steps, named);
  }
  return named;
}

/**
 * Whether an item is left out of the view. A plane or a sketch that a step was made with is, until someone asks for it:
 * what was made of it stands for it.
 */
export function isOut(item: ItemView, part: Part, { hidden, shown, alone }: Choices): boolean {
  if (alone !== null) return alone !== item.id;
  return hidden.has(item.id) || (hasServed(item, part) && !shown.has(item.id));
}

/** Whether a step was made with it: a plane or a drawing that what was made of it stands for. */
export function hasServed(item: ItemView, part: Part): boolean {
  if (isBodyView(item)) return false;
  const named = namedBySteps(part);
  return named.has(item.id) || named.has(item.step);
}

/** The choices with an item shown where it was out, and out where it was shown. */
export function toggledView(item: ItemView, part: Part, choices: Choices): Choices {
  const [hidden, shown] = [new Set(choices.hidden), new Set(choices.shown)];
  const show = isOut(item, part, choices);
  if (show) {
    hidden.delete(item.id);
    shown.add(item.id);
  } else if (choices.alone === null) {
    hidden.add(item.id);
    shown.delete(item.id);
  }
  return { hidden, shown, alone: null };
}
