import type { Transaction } from "../jobs/repository";
import type { Database } from "./client";

let last: Promise<unknown> = Promise.resolve();

/**
 * Runs a transaction after every earlier one of this process, so that two never wait for each other, and tries again
 * for a while when another process holds the file.
 */
export function transact<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const run = async (): Promise<T> => {
    for (let attempt = 0; ; attempt++) {
      try {
        return await db.transaction(work, { behavior: "immediate" });
      } catch (cause) {
        if (attempt >= 20 || !isBusy(cause)) throw cause;
        await new Promise((resolve) => setTimeout(resolve, 25 * (attempt + 1)));
      }
    }
  };
  const result = last.then(run, run);
  last = result.catch(() => {});
  return result;
}

function isBusy(cause: unknown): boolean {
  for (let error = cause as { code?: string; cause?: unknown } | undefined; error; error = error.cause as typeof error)
    if (typeof error.code === "string" && error.code.startsWith("SQLITE_BUSY")) return true;
  return false;
}
