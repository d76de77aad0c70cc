import type { Transaction } from "../jobs/repository";
import { type Database, refuseReadOnly } from "./client";
import { asStorageProblem } from "./storage";

/** How long it is tried for, ms, whether the driver waits by itself or answers at once; and the longest pause between. */
const PATIENCE = 10_000;
const PAUSE = 500;

let last: Promise<unknown> = Promise.resolve();

/**
 * Runs a transaction after every earlier one of this process, so that two never wait for each other, and tries again
 * for a while when another process holds the file.
 * @throws StorageProblem when the storage cannot take it: then nothing was written.
 */
export function transact<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const run = async (): Promise<T> => {
    refuseReadOnly(db);
    const started = performance.now();
    for (let attempt = 0; ; attempt++) {
      try {
        return await db.transaction(work, { behavior: "immediate" });
      } catch (cause) {
        const problem = asStorageProblem(cause);
        // The driver may have waited all that time by itself, with nothing else done in this process: what holds the file may be
        // of this process, and is given the chance to let go.
        const late = attempt > 0 && performance.now() - started > PATIENCE;
        if (late || problem?.code !== "locked") throw problem ?? cause;
        await new Promise((resolve) => setTimeout(resolve, Math.min(PAUSE, 40 * (attempt + 1))));
      }
    }
  };
  const result = last.then(run, run);
  last = result.catch(() => {});
  return result;
}
