import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { nanoid } from "nanoid";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { edits, type Job, type JobState, makeChange, type Step } from "@/core/job";
import { type Database, openDatabase } from "../db/client";
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
    const after = await edit(db, job.id, rename(job, "Two"));
    expect(after.revision).toBe(2);
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
    for (const name of ["1", "2", "3"]) state = await edit(db, state.id, rename(state, name));
    for (const name of ["2", "1", "0"]) {
      state = await undo(db, state.id, state.revision);
      expect(state.document.name).toBe(name);
    }
    expect(state.undo).toBeNull();
    for (const name of ["1", "2"]) {
      state = await redo(db, state.id, state.revision);
      expect(state.document.name).toBe(name);
    }
    expect(state).toMatchObject({ undo: "Call it 2", redo: "Call it 3" });
    state = await edit(db, state.id, rename(state, "9"));
    expect(state.redo).toBeNull();
    expect((await problemOf(redo(db, state.id, state.revision))).code).toBe("nothing-to-redo");
    state = await undo(db, state.id, state.revision);
    expect(state.document.name).toBe("2");
  });

  test("survives opening the database anew", async () => {
    let state = await createJob(db, { name: "a", units: "mm" });
    state = await edit(db, state.id, rename(state, "b"));
    const again = await openDatabase(`file:${path.join(folder, "test.db")}`);
    expect((await undo(again, state.id, state.revision)).document.name).toBe("a");
  });

  test("an undo on an old revision is refused like any write", async () => {
    const job = await createJob(db, { name: "a", units: "mm" });
    await edit(db, job.id, rename(job, "b"));
    expect((await problemOf(undo(db, job.id, 1))).status).toBe(409);
  });

  test("the stacks are read off any log", () => {
    const entry = (id: number, kind: "edit" | "undo" | "redo") => ({ id, kind, of: null, label: `e${id}` });
    const { undo: back, redo: forward } = stacksOf([
      entry(1, "edit"),
      entry(2, "edit"),
      entry(3, "undo"),
      entry(4, "undo"),
      entry(5, "redo"),
    ]);
    expect(back.map(({ id }) => id)).toEqual([1]);
    expect(forward.map(({ id }) => id)).toEqual([2]);
  });

  test("steps added, moved, held and taken out come back as they were", async () => {
    let state = await createJob(db, { name: "steps", units: "mm" });
    const act = async (label: string, change: (draft: Job) => void) => {
      const made = makeChange(state.document, label, change)!;
      state = await edit(db, state.id, {
        base: state.revision,
        label,
        token: nanoid(),
        patches: made.change.patches as never,
      });
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
    state = await undo(db, state.id, state.revision);
    expect(state.document.parts[0]!.steps.map((step) => step.id)).toEqual(["a", "c", "b"]);
    expect(state.document.parts[0]!.hold).toBe("c");
  });
});

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
