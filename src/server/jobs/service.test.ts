import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { eq } from "drizzle-orm";
import { applyPatches } from "immer";
import { nanoid } from "nanoid";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { edits, type Job, type JobState, makeChange, type Step, type Written } from "@/core/job";
import { Random } from "@/core/testing/trust/random";
import { type Database, openDatabase } from "../db/client";
import { changes, jobs } from "../db/schema";
import { fileBytes, keepFile } from "../files/service";
import { storedGeometry, storeGeometry } from "../geometry/service";
import { HttpProblem } from "../http/problem";
import { stacksOf } from "./history";
import { createJob, edit, listSummaries, readJob, redo, removeJob, undo } from "./service";

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-test-"));
let db: Database;
beforeAll(async () => {
  db = await openDatabase(`file:${path.join(folder, "test.db")}`);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const rename = (state: JobState, name: string) => {
  const { change } = makeChange(state.document, `Call it ${name}`, (draft: Job) => {
    draft.name = name;
  })!;
  return { base: state.revision, label: change.label, token: nanoid(), patches: change.patches as never };
};

/** The job after a write, whose answer does not carry it. */
const after = async (work: Promise<Written>): Promise<JobState> => readJob(db, (await work).id);

async function problemOf(work: Promise<unknown>): Promise<HttpProblem> {
  const cause = await work.then(
    () => null,
    (error: unknown) => error,
  );
  expect(cause).toBeInstanceOf(HttpProblem);
  return cause as HttpProblem;
}

describe("edits and revisions", () => {
  test("an edit counts the revision up and is kept", async () => {
    const job = await createJob(db, { name: "One", units: "mm" });
    const answer = await edit(db, job.id, rename(job, "Two"));
    expect(answer).toEqual({ id: job.id, revision: 2, undo: "Call it Two", redo: null });
    expect((await readJob(db, job.id)).document.name).toBe("Two");
    expect((await listSummaries(db)).find((summary) => summary.id === job.id)?.name).toBe("Two");
  });

  test("a write on an old revision is refused with what changed since; nothing is lost on either side", async () => {
    const job = await createJob(db, { name: "One", units: "mm" });
    await edit(db, job.id, rename(job, "Theirs"));
    const problem = await problemOf(edit(db, job.id, rename(job, "Mine")));
    expect(problem.status).toBe(409);
    expect(problem.detail).toMatchObject({ revision: 2, since: [{ label: "Call it Theirs" }] });
    expect((await readJob(db, job.id)).document.name).toBe("Theirs");
  });

  test("of ten writes at once on one revision exactly one is taken", async () => {
    const job = await createJob(db, { name: "Race", units: "mm" });
    const results = await Promise.allSettled(
      Array.from({ length: 10 }, (_, i) => edit(db, job.id, rename(job, `Racer ${i}`))),
    );
    expect(results.filter((result) => result.status === "fulfilled")).toHaveLength(1);
    for (const result of results)
      if (result.status === "rejected") expect(result.reason).toMatchObject({ status: 409 });
    expect((await readJob(db, job.id)).revision).toBe(2);
  });

  test("an edit sent again after a lost answer is not done twice", async () => {
    const job = await createJob(db, { name: "One", units: "mm" });
    const request = rename(job, "Two");
    const first = await edit(db, job.id, request);
    const second = await edit(db, job.id, request);
    expect(second.revision).toBe(first.revision);
  });

  test("patches that do not fit, or leave no valid job, are refused", async () => {
    const job = await createJob(db, { name: "One", units: "mm" });
    const send = (patches: unknown[]) =>
      edit(db, job.id, { base: 1, label: "Odd", token: nanoid(), patches: patches as never });
    await expect(send([{ op: "replace", path: ["parts", 9, "name"], value: "x" }])).rejects.toThrow();
    await expect(send([{ op: "replace", path: ["units"], value: "furlong" }])).rejects.toThrow(/cannot be used/);
    await expect(send([{ op: "add", path: ["__proto__", "x"], value: 1 }])).rejects.toThrow(/does not fit/);
    expect((await readJob(db, job.id)).revision).toBe(1);
  });
});

describe("undo and redo from the log", () => {
  test("three back, two forward, a new edit ends what could be redone", async () => {
    let state = await createJob(db, { name: "0", units: "mm" });
    for (const name of ["1", "2", "3"]) state = await after(edit(db, state.id, rename(state, name)));
    for (const name of ["2", "1", "0"]) {
      state = await after(undo(db, state.id, state.revision));
      expect(state.document.name).toBe(name);
    }
    expect(state.undo).toBeNull();
    for (const name of ["1", "2"]) {
      state = await after(redo(db, state.id, state.revision));
      expect(state.document.name).toBe(name);
    }
    expect(state).toMatchObject({ undo: "Call it 2", redo: "Call it 3" });
    state = await after(edit(db, state.id, rename(state, "9")));
    expect(state.redo).toBeNull();
    expect((await problemOf(redo(db, state.id, state.revision))).code).toBe("nothing-to-redo");
    state = await after(undo(db, state.id, state.revision));
    expect(state.document.name).toBe("2");
  });

  test("survives opening the database anew", async () => {
    let state = await createJob(db, { name: "a", units: "mm" });
    state = await after(edit(db, state.id, rename(state, "b")));
    const again = await openDatabase(`file:${path.join(folder, "test.db")}`);
    await undo(again, state.id, state.revision);
    expect((await readJob(again, state.id)).document.name).toBe("a");
  });

  test("an undo on an old revision is refused like any write", async () => {
    const job = await createJob(db, { name: "a", units: "mm" });
    await edit(db, job.id, rename(job, "b"));
    expect((await problemOf(undo(db, job.id, 1))).status).toBe(409);
  });

  test("the stacks are read off any log", () => {
    const entry = (id: number, kind: "edit" | "undo" | "redo") => ({ id, kind });
    const { undoTop, redoTop, under } = stacksOf([
      entry(1, "edit"),
      entry(2, "edit"),
      entry(3, "undo"),
      entry(4, "undo"),
      entry(5, "redo"),
    ]);
    expect([undoTop, redoTop]).toEqual([1, 3]);
    expect([...under]).toEqual([
      [1, null],
      [2, 1],
      [3, null],
      [4, 3],
    ]);
  });

  test("by chance: what the rows keep is what the whole log says, and the answers lead to the same document", async () => {
    const random = new Random(7);
    let state = await createJob(db, { name: "0", units: "mm" });
    /** The names that a person would expect to come back. */
    const past: string[] = [];
    let future: string[] = [];
    let shown = state.document;
    for (let i = 0; i < 120; i++) {
      const kind = random.next() < 0.45 ? "edit" : random.next() < 0.6 ? "undo" : "redo";
      if (kind === "undo" && past.length === 0) continue;
      if (kind === "redo" && future.length === 0) continue;
      let answer: Written;
      if (kind === "edit") {
        const request = rename(state, `n${i}`);
        answer = await edit(db, state.id, request);
        shown = applyPatches(shown, request.patches) as Job;
        past.push(state.document.name);
        future = [];
      } else {
        answer = await (kind === "undo" ? undo : redo)(db, state.id, state.revision);
        shown = applyPatches(shown, answer.patches!) as Job;
        if (kind === "undo") future.push(state.document.name);
        else past.push(state.document.name);
        expect(shown.name).toBe(kind === "undo" ? past.pop() : future.pop());
      }
      state = await readJob(db, state.id);
      expect(shown).toEqual(state.document);
      expect([answer.undo !== null, answer.redo !== null]).toEqual([past.length > 0, future.length > 0]);
      expect([answer.undo, answer.redo]).toEqual([state.undo, state.redo]);
    }
  });

  test("a log that an earlier release wrote goes on: its stacks are read off it once", async () => {
    let state = await createJob(db, { name: "0", units: "mm" });
    for (const name of ["1", "2", "3"]) state = await after(edit(db, state.id, rename(state, name)));
    state = await after(undo(db, state.id, state.revision));
    await db.update(changes).set({ under: null }).where(eq(changes.job, state.id));
    await db.update(jobs).set({ undoTop: null, redoTop: null, hasTops: false }).where(eq(jobs.id, state.id));
    expect(await readJob(db, state.id)).toMatchObject({ undo: "Call it 2", redo: "Call it 3" });
    state = await after(redo(db, state.id, state.revision));
    expect(state.document.name).toBe("3");
    for (const name of ["2", "1", "0"]) {
      state = await after(undo(db, state.id, state.revision));
      expect(state.document.name).toBe(name);
    }
    expect(state.undo).toBeNull();
  });

  test("steps added, moved, held and taken out come back as they were", async () => {
    let state = await createJob(db, { name: "steps", units: "mm" });
    const act = async (label: string, change: (draft: Job) => void) => {
      const made = makeChange(state.document, label, change)!;
      const request = { base: state.revision, label, token: nanoid(), patches: made.change.patches as never };
      state = await after(edit(db, state.id, request));
    };
    const ball = (id: string): Step => ({ id, type: "sphere", suppressed: false, diameter: 10, at: [0, 0, 0] });
    await act("a", (draft) => edits.addStep(draft.parts[0]!, ball("a")));
    await act("b", (draft) => edits.addStep(draft.parts[0]!, ball("b")));
    await act("hold", (draft) => edits.setHold(draft.parts[0]!, "a"));
    await act("c", (draft) => edits.addStep(draft.parts[0]!, ball("c")));
    expect(state.document.parts[0]!.steps.map((step) => step.id)).toEqual(["a", "c", "b"]);
    expect(state.document.parts[0]!.hold).toBe("c");
    await act("out", (draft) => edits.removeStep(draft.parts[0]!, "c"));
    expect(state.document.parts[0]!.hold).toBe("a");
    state = await after(undo(db, state.id, state.revision));
    expect(state.document.parts[0]!.steps.map((step) => step.id)).toEqual(["a", "c", "b"]);
    expect(state.document.parts[0]!.hold).toBe("c");
  });
});

describe("at the size of real work", () => {
  test("the list reads no document, and a damaged row hides only itself", async () => {
    const good = await createJob(db, { name: "good", units: "inch" });
    const bad = await createJob(db, { name: "bad", units: "mm" });
    await db.update(jobs).set({ document: "{" }).where(eq(jobs.id, bad.id));
    const line = async (id: string) => (await listSummaries(db)).find((summary) => summary.id === id)!;
    // What it says was kept with the last write.
    expect(await line(bad.id)).toMatchObject({ name: "bad", parts: [{ name: "Part 1", steps: 0 }] });
    await db.update(jobs).set({ outline: null });
    expect(await line(bad.id)).toMatchObject({ name: "bad", fault: "Its record is damaged." });
    expect(await line(good.id)).toMatchObject({ name: "good", units: "inch", parts: [{ name: "Part 1", steps: 0 }] });
    expect((await problemOf(readJob(db, bad.id))).code).toBe("job-damaged");
    await removeJob(db, bad.id);
  });

  test("a job that a newer release stored says so, and is not called damaged", async () => {
    const job = await createJob(db, { name: "newer", units: "mm" });
    const document = JSON.stringify({ ...job.document, stepVersions: { fillet: 7 } });
    await db.update(jobs).set({ document }).where(eq(jobs.id, job.id));
    expect(await problemOf(readJob(db, job.id))).toMatchObject({ status: 409, code: "job-newer" });
    expect((await problemOf(readJob(db, job.id))).message).toMatch(/newer release.*“Fillet”/);
    await removeJob(db, job.id);
  });

  test("a job that grows beyond all measure is refused with a sentence, and stays as it was", async () => {
    const job = await createJob(db, { name: "large", units: "mm" });
    const text = "x".repeat(17 * 1024 * 1024);
    const patches = [{ op: "add", path: ["files", 0], value: { id: "f", name: "f.step", text } }] as never;
    const problem = await problemOf(edit(db, job.id, { base: 1, label: "File", token: nanoid(), patches }));
    expect(problem.message).toMatch(/larger than 16 MB/);
    expect((await readJob(db, job.id)).revision).toBe(1);
  });

  test("an edit reads as much of the log at revision 4,000 as at 10", async () => {
    const job = await createJob(db, { name: "long", units: "mm" });
    let state = await after(edit(db, job.id, rename(job, "first")));
    const entry = { job: job.id, kind: "edit" as const, of: null, token: null, patches: "[]", inverse: "[]" };
    for (let from = 3; from < 4000; from += 400)
      await db.insert(changes).values(
        Array.from({ length: 400 }, (_, i) => ({
          ...entry,
          revision: from + i,
          label: "e",
          at: new Date(),
          under: null,
        })),
      );
    await db.update(jobs).set({ revision: 4002 }).where(eq(jobs.id, job.id));
    state = await readJob(db, job.id);
    // Whoever reads the whole log asks for rows that are not to be had: the driver says what is asked.
    const asked: string[] = [];
    const spied = openSpied(asked);
    await edit(await spied, job.id, rename(state, "later"));
    expect(asked.filter((sql) => /from "changes"/i.test(sql) && !/"id" = \?|"token" = \?/.test(sql))).toEqual([]);
  });
});

/** The same database through a connection that notes what it is asked. */
async function openSpied(asked: string[]): Promise<Database> {
  const { drizzle } = await import("drizzle-orm/libsql");
  const { connect } = await import("../db/client");
  return drizzle(connect(`file:${path.join(folder, "test.db")}`), {
    logger: { logQuery: (sql) => asked.push(sql) },
  }) as never;
}

describe("what is kept besides", () => {
  test("a deleted job is gone and says so", async () => {
    const job = await createJob(db, { name: "gone", units: "mm" });
    await removeJob(db, job.id);
    expect((await problemOf(readJob(db, job.id))).status).toBe(404);
  });

  test("files are kept as they came, once; what is no STEP file is not", async () => {
    const bytes = new TextEncoder().encode("ISO-10303-21;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n");
    const kept = await keepFile(db, "a.step", bytes);
    expect((await keepFile(db, "b.step", bytes)).sha256).toBe(kept.sha256);
    expect(await fileBytes(db, kept.sha256)).toEqual(bytes);
    await expect(keepFile(db, "c.step", new Uint8Array([1, 2, 3]))).rejects.toThrow(/is not a STEP file/);
    expect((await problemOf(fileBytes(db, "0".repeat(64)))).status).toBe(404);
  });

  test("stored geometry comes back by its key", async () => {
    const key = "a".repeat(64);
    expect(await storedGeometry(db, key)).toBeNull();
    await storeGeometry(db, key, new Uint8Array([1, 2, 3]));
    await storeGeometry(db, key, new Uint8Array([4, 5]));
    expect(await storedGeometry(db, key)).toEqual(new Uint8Array([4, 5]));
  });
});
