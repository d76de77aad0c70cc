import type { Step } from "@/core/job";
import { stepType } from "@/core/steps";

/** What a step is called: by a person, or by what it does. */
export function stepTitle(step: Step): string {
  if (step.name) return step.name;
  if (step.type === "seam") return String(step.preset).replace(/^./, (first) => first.toUpperCase());
  return stepType(step.type)?.words.label ?? step.type;
}
