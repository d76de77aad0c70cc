/** Whether a value is another, or holds it at any depth: the very same object or text. */
export function holds(value: unknown, wanted: unknown): boolean {
  if (value === wanted) return true;
  return typeof value === "object" && value !== null && Object.values(value).some((part) => holds(part, wanted));
}

/** A copy of a value in which one thing is replaced by another wherever it stands. */
export function replaced(value: unknown, old: unknown, now: unknown): unknown {
  if (value === old) return now;
  if (Array.isArray(value)) return value.map((part) => replaced(part, old, now));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, part]) => [key, replaced(part, old, now)]));
}
