import type { Patch } from "immer";

/** Edits that the server has not taken yet, kept in the browser so that nothing dies with a tab. */
export interface PendingEdit {
  label: string;
  /** Marks the edit for the server, so that sending it again after a lost answer does no harm. */
  token: string;
  patches: Patch[];
}
export interface Pending {
  base: number;
  edits: PendingEdit[];
}

const keyOf = (job: string) => `bold-seam:pending:${job}`;

export function readPending(job: string): Pending | null {
  try {
    const text = localStorage.getItem(keyOf(job));
    const value = text ? (JSON.parse(text) as Pending) : null;
    return value && typeof value.base === "number" && Array.isArray(value.edits) && value.edits.length > 0
      ? value
      : null;
  } catch {
    return null;
  }
}

export function writePending(job: string, pending: Pending | null): void {
  try {
    if (pending && pending.edits.length > 0) localStorage.setItem(keyOf(job), JSON.stringify(pending));
    else localStorage.removeItem(keyOf(job));
  } catch {
    // Storage may be full or forbidden: the edits are still in the page.
  }
}
