import type { Step } from "../job";
import { activeValues, refsOf, stepType } from "../steps";

/** What a step made when the part was last built, by item id. */
export interface Made {
  id: string;
  made: readonly string[];
  becomes?: Readonly<Record<string, string>>;
}

/**
 * The steps that need what a step makes, directly or through others, in the order of the sheet. A step that changes a body
 * under its id stands between those before and after it: what comes later needs the change, too.
 */
export function dependants(steps: readonly Step[], reports: readonly Made[], id: string): Step[] {
  const madeBy = new Map<string, string>();
  const report = new Map(reports.map((one) => [one.id, one] as const));
  const needing = new Set([id]);
  const found: Step[] = [];
  let after = false;
  for (const step of steps) {
    const type = stepType(step.type);
    const refs = refsOf(step);
    // The last that made an item is the one that is needed; an item that nothing made lately is known by its step.
    const makers = refs.map((ref) => madeBy.get(ref) ?? ref.split(":")[0]!);
    const onAll = after && type?.needsAll?.(activeValues(step) as never);
    if (step.id === id) after = true;
    else if (onAll || makers.some((maker) => needing.has(maker))) {
      needing.add(step.id);
      found.push(step);
    }
    const { made = [], becomes = {} } = report.get(step.id) ?? {};
    for (const item of [...made, ...Object.keys(becomes)]) madeBy.set(item, step.id);
  }
  return found;
}

/**
 * Why a step cannot stand at another place of the sheet; null when it can. A step has to come after those that make what
 * it names. Whether a body is still there where a step comes to stand, only building can tell.
 *
 * @param to the place after the move, from 0.
 */
export function whyNotMoved(steps: readonly Step[], id: string, to: number): { needs: Step; needed: Step } | null {
  const moved = steps.find((step) => step.id === id);
  if (!moved) return null;
  const order = steps.filter((step) => step.id !== id);
  order.splice(Math.max(0, Math.min(to, order.length)), 0, moved);
  const place = new Map(order.map((step, i) => [step.id, i] as const));
  for (const [i, step] of order.entries()) {
    const refs = refsOf(step);
    for (const ref of refs) {
      const maker = ref.split(":")[0]!;
      const at = place.get(maker);
      // What was out of order before is not this move's fault.
      const before = steps.findIndex((other) => other.id === maker) < steps.findIndex((other) => other.id === step.id);
      if (at !== undefined && at > i && before) return { needs: step, needed: order[at]! };
    }
  }
  return null;
}
