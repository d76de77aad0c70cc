import type { Transaction } from "../jobs/repository";
import { type Database, refuseReadOnly } from "./client";
import { asStorageProblem } from "./storage";

/** With the pauses between them and what a connection waits by itself, some ten seconds. */
const TRIES = 12;

let last: Promise<unknown> = Promise.resolve();

/**
 * Runs a transaction after every earlier one of this process, so that two never wait for each other, and tries again
 * for a while when another process holds the file.
 * @throws StorageProblem when the storage cannot take it: then nothing was written.
 */
export function transact<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const run = async (): Promise<T> => {
    refuseReadOnly(db);
    for (let attempt = 0; ; attempt++) {
      try {
        return await db.transaction(work, { behavior: "immediate" });
      } catch (cause) {
        const problem = asStorageProblem(cause);
        if (attempt >= TRIES || problem?.code !== "locked") throw problem ?? cause;
        await new Promise((resolve) => setTimeout(resolve, 40 * (attempt + 1)));
      }
    }
  };
  const result = last.then(run, run);
  last = result.catch(() => {});
  return result;
}
