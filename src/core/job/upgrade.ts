import type { Job } from "./document";

/** A job as an earlier release stored it, with what this one has more. It was checked when it was written. */
export function upgradeJob(stored: Job): Job {
  const parts = stored.parts.map((part) => ({
    ...part,
    parameters: part.parameters ?? [],
    looks: part.looks ?? {},
    groups: part.groups ?? [],
    notes: part.notes ?? [],
  }));
  return { ...stored, parameters: stored.parameters ?? [], materials: stored.materials ?? [], parts };
}
