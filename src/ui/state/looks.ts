import { keptOf, type Look, type Material, materialOf, type Part } from "@/core/job";
import type { BodyView } from "@/engine/contract";

/** The look that a body has, under its id or one that it had. */
export const lookOf = (part: Pick<Part, "looks">, body: BodyView): Look => keptOf(part.looks, body) ?? {};

/** The material of a body, and its mass in grams; null where it has none. */
export function massOf(
  job: { materials: readonly Material[] },
  part: Part,
  body: BodyView,
): { material: Material; grams: number } | null {
  const material = materialOf(job, lookOf(part, body).material);
  const { volume } = body.measures;
  return material && volume !== null ? { material, grams: (volume / 1000) * material.density } : null;
}

/** All ids that a body has or had: what it is kept under in groups and notes. */
export const idsOf = (body: { id: string; was: readonly string[] }): string[] => [body.id, ...body.was];

/** The group that a body is in. */
export const groupOf = (part: Part, body: BodyView): string | null =>
  part.groups.find(({ bodies }) => idsOf(body).some((id) => bodies.includes(id)))?.name ?? null;
