import type { Client } from "@libsql/client";
import type { Transaction } from "../jobs/repository";
import { type Database, refuseReadOnly } from "./client";
import { asStorageProblem } from "./storage";

/** How long it is tried for, ms, whether the driver waits by itself or answers at once; and the longest pause between. */
const PATIENCE = 10_000;
const PAUSE = 500;

/**
 * Waits, ms, and lets go of the connections to a file. A refused BEGIN stays unfinished in its connection until it is collected as
 * garbage, and until then nothing that is written over that connection can be committed. Between two turns of the event loop no other
 * operation holds one: to a file all but transactions end in the turn in which they begin.
 */
function afresh(db: Database, pause: number): Promise<void> {
  const client = (db as unknown as { $client: Client }).$client;
  return new Promise((resolve, reject) =>
    setTimeout(() => {
      if (client.protocol !== "file") return resolve();
      Promise.resolve(client.reconnect()).then(resolve, reject);
    }, pause),
  );
}

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
        if (problem?.code !== "locked") throw problem ?? cause;
        await afresh(db, late ? 0 : Math.min(PAUSE, 40 * (attempt + 1)));
        if (late) throw problem;
      }
    }
  };
  const result = last.then(run, run);
  last = result.catch(() => {});
  return result;
}
