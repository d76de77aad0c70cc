import type { StepReport } from "@/core/evaluate";
import { type BodyView, type ItemView, isBodyView } from "@/engine/contract";

/** What comes of an open step. */
export interface ComesOut {
  /** Each body with the bodies, by name, that it still is: it keeps their identity and look. None for what is new. */
  bodies: { body: BodyView; is: string[] }[];
  /** Names of what is used up and lives on in none of them. */
  gone: string[];
}

/**
 * What a step makes of what was there before it, as it stands.
 * @param before what is on the bench before the step. @param after what is there after it.
 */
export function outcomeOf(
  report: Pick<StepReport, "made" | "becomes"> | undefined,
  before: readonly ItemView[],
  after: readonly ItemView[],
): ComesOut {
  const heirs = Object.entries(report?.becomes ?? {});
  const there = new Set(after.map(({ id }) => id));
  const names = new Map(before.map(({ id, name }) => [id, name] as const));
  const bodies = after
    .filter(isBodyView)
    .filter(({ id }) => report?.made.includes(id))
    .map((body) => ({
      body,
      is: heirs.flatMap(([from, to]) => (to === body.id ? (names.get(from) ?? []) : [])),
    }));
  const lives = new Set(heirs.map(([from]) => from));
  const gone = before.filter(({ id }) => !there.has(id) && !lives.has(id)).map(({ name }) => name);
  return { bodies, gone };
}
