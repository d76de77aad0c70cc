import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { applyPatches } from "immer";
import { nanoid } from "nanoid";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { type Job, makeChange, type Written } from "@/core/job";
import { Random } from "@/core/testing/trust/random";
import { LibsqlStandIn } from "../testing/libsql-stand-in";

/** How many edits are made together: a sample here, many more in the long proof. */
const EDITS = Number(process.env.PROOF_CLIENT_EDITS ?? 24);
const CLIENTS = 8;

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-servers-"));
const standIn = new LibsqlStandIn(path.join(folder, "server.db"));
let url = "";
beforeAll(async () => {
  url = await standIn.start();
});
afterAll(async () => {
  await standIn.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** An application server of its own: modules of its own, as another process has them. */
async function application() {
  vi.resetModules();
  const { openDatabase } = await import("../db/client");
  const service = await import("./service");
  const db = await openDatabase(url);
  return { db, ...service };
}
type Application = Awaited<ReturnType<typeof application>>;

test(`${EDITS} edits by ${CLIENTS} clients through two servers on one libSQL database: none lost, none merged blindly`, async () => {
  const apps = [await application(), await application()];
  const [one] = apps as [Application, Application];
  const job = await one.createJob(one.db, { name: "Together", units: "mm" });
  const random = new Random(20261128);
  // Every now and then an answer is lost on its way, after the work was done.
  let answers = 0;
  standIn.drops = () => ++answers % 97 === 0;
  const acknowledged: { token: string; client: number; value: number }[] = [];

  /** A client that sets its own parameter, one up each time, and begins anew where another was faster. */
  async function client(number: number, app: Application): Promise<void> {
    let state = await patiently(() => app.readJob(app.db, job.id));
    for (let value = 1; value <= EDITS / CLIENTS; value++) {
      const token = nanoid();
      for (;;) {
        const made = makeChange(state.document, `${number} to ${value}`, (draft: Job) => {
          const own = draft.parameters.find(({ name }) => name === `client_${number}`);
          if (own) own.formula = value;
          else draft.parameters.push({ name: `client_${number}`, unit: "", formula: value, note: "" });
        })!;
        const request = {
          base: state.revision,
          label: made.change.label,
          token,
          patches: made.change.patches as never,
        };
        const answer = await patiently(() => app.edit(app.db, job.id, request), 409);
        if (answer) {
          acknowledged.push({ token, client: number, value });
          state = { ...state, ...answer, document: answer.document ?? made.job };
          break;
        }
        await new Promise((resolve) => setTimeout(resolve, random.next() * 20));
        state = await patiently(() => app.readJob(app.db, job.id));
      }
    }
  }
  await Promise.all(Array.from({ length: CLIENTS }, (_, i) => client(i, apps[i % 2]!)));
  standIn.drops = () => false;

  const { document, revision } = await one.readJob(one.db, job.id);
  const { changes } = await import("../db/schema");
  const rows = await one.db.select().from(changes).orderBy(changes.revision);
  // Each acknowledged edit is in the log, once, and nothing else is.
  expect(acknowledged).toHaveLength(EDITS);
  expect(rows.map(({ token }) => token).sort()).toEqual(acknowledged.map(({ token }) => token).sort());
  expect(rows.map((row) => row.revision)).toEqual(Array.from({ length: EDITS }, (_, i) => i + 2));
  expect(revision).toBe(EDITS + 1);
  // The log leads to the document, and every client's last word stands in it.
  let replayed = job.document;
  for (const { patches } of rows) replayed = applyPatches(replayed, JSON.parse(patches)) as Job;
  expect(document.parameters).toEqual(replayed.parameters);
  expect(document.parameters.map(({ formula }) => formula)).toEqual(Array(CLIENTS).fill(EDITS / CLIENTS));
  // And all of it can be taken back.
  let last: Written = { id: job.id, revision, undo: "", redo: null };
  for (let i = 0; i < 5; i++) last = await one.undo(one.db, job.id, last.revision);
  expect(last.revision).toBe(EDITS + 6);
});

/** Asks again when the network fails, as a page does; null for a refusal of the status given. */
async function patiently<T>(work: () => Promise<T>): Promise<T>;
async function patiently<T>(work: () => Promise<T>, refusal: number): Promise<T | null>;
async function patiently<T>(work: () => Promise<T>, refusal?: number): Promise<T | null> {
  for (let tries = 0; ; tries++)
    try {
      return await work();
    } catch (cause) {
      const { status, code } = cause as { status?: number; code?: string };
      if (status !== undefined && status === refusal) return null;
      if (status !== undefined || tries > 60 || (code && !/locked|unreachable/.test(code))) throw cause;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
}
