import type { CheckResult, CheckType } from "@/core/check";

/** The check that is open: which, what it is asked for, and what came of it. */
export interface Checking {
  id: string;
  values: Record<string, unknown>;
  result: CheckResult | null;
  trouble: string | null;
}

/** A check as it is when it is opened. */
export function opened({ id, schema }: CheckType): Checking {
  return { id, values: schema.parse({}) as Record<string, unknown>, result: null, trouble: null };
}
