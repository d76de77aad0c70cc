import type { CheckResult, CheckType, Found } from "@/core/check";

/** The check that is open: which, what it is asked for, and what came of it. */
export interface Checking {
  id: string;
  values: Record<string, unknown>;
  result: CheckResult | null;
  /** The line of its table that is looked at, by its place. */
  line: number | null;
  trouble: string | null;
}

/** A check as it is when it is opened. */
export function opened({ id, schema }: CheckType): Checking {
  return { id, values: schema.parse({}) as Record<string, unknown>, result: null, line: null, trouble: null };
}

/** The line that is looked at. */
export const lineOf = (checking: Checking | null): Found | null => checking?.result?.found[checking.line ?? -1] ?? null;
