import type { Part } from "@/core/job";
import { type ItemView, isBodyView } from "@/engine/contract";

/** Which steps of the sheet a body goes on without, in words; empty where it lacks none. */
export function lacksWords(item: ItemView, part: Pick<Part, "steps">): string {
  const lacks = isBodyView(item) ? item.lacks : [];
  if (lacks.length === 0) return "";
  // A new step that is open stands behind all others.
  const numberOf = (id: string) => part.steps.findIndex((step) => step.id === id) + 1 || part.steps.length + 1;
  const numbers = lacks.map(numberOf);
  const left = lacks.every((id) => part.steps.find((step) => step.id === id)?.suppressed);
  return `lacks step${numbers.length > 1 ? "s" : ""} ${numbers.join(", ")}, ${left ? "left out" : "not done"}`;
}
