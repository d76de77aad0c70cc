import type * as z from "zod";
import { Marks } from "../schema/marks";

/** What a reference means: an item of the bench or all that a step made, a step itself, or a part of a body. */
export interface ReferenceMark {
  of: "item" | "step" | "face" | "edge" | "corner";
}

/** Which schemas are references: what finds in a step's values the items that it needs. */
export const references = new Marks<ReferenceMark>();

/** Which schemas are ids of imported files. */
export const fileReferences = new Marks<{ of: "file" }>();

/** Which schemas name another part of the job, and which something that lies on its bench. */
export const partReferences = new Marks<{ of: "part" | "item" }>();

/** The other parts that a step's values name, and the items of them, by their ids there: each once. */
export function elsewhereIn(schema: z.ZodType, values: unknown): { parts: string[]; items: string[] } {
  const found = { part: new Set<string>(), item: new Set<string>() };
  partReferences.each(schema, values, (value, { of }) => {
    const id = typeof value === "string" ? value : (value as { body: string }).body;
    if (id !== "") found[of].add(id);
  });
  return { parts: [...found.part], items: [...found.item] };
}

/** What a step's values mean: items and steps by id, each once; and which of those are steps. */
export function referencesIn(schema: z.ZodType, values: unknown): { all: string[]; steps: string[] } {
  const [all, steps] = [new Set<string>(), new Set<string>()];
  references.each(schema, values, (value, { of }) => {
    const id = typeof value === "string" ? value : (value as { body: string }).body;
    all.add(id);
    if (of === "step") steps.add(id);
  });
  return { all: [...all], steps: [...steps] };
}

/** The imported files, by id, that a step's values mean. */
export function filesIn(schema: z.ZodType, values: unknown): string[] {
  const found = new Set<string>();
  fileReferences.each(schema, values, (value) => found.add(value as string));
  return [...found];
}
