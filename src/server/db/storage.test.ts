import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { nanoid } from "nanoid";
import { afterAll, beforeEach, describe, expect, test, vi } from "vitest";
import { edits, makeChange } from "@/core/job";
import { backUp, restore } from "../backup/backup";
import { fileBytes, keepFile } from "../files/service";
import { createJob, edit, listSummaries, readJob, undo } from "../jobs/service";
import { connect, type Database, openDatabase } from "./client";
import { StorageProblem } from "./storage";
import { MIGRATIONS } from "./versions";

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-storage-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let n = 0;
let file = "";
const url = () => `file:${file}`;
beforeEach(() => {
  mkdirSync(path.join(folder, String(++n)));
  file = path.join(folder, String(n), "jobs.db");
});

const STEP = new TextEncoder().encode("ISO-10303-21;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n");

async function withEdits(db: Database, name: string, count: number): Promise<string> {
  const job = await createJob(db, { name, units: "mm" });
  for (let i = 1; i <= count; i++) await addStep(db, job.id);
  return job.id;
}

async function addStep(db: Database, id: string): Promise<void> {
  const { document, revision } = await readJob(db, id);
  const { change } = makeChange(document, "Ball", (draft) => {
    const part = draft.parts[0]!;
    edits.addStep(part, {
      id: `s${part.steps.length + 1}`,
      type: "sphere",
      suppressed: false,
      diameter: 10,
      at: [0, 0, 0],
    });
  })!;
  await edit(db, id, { base: revision, label: "Ball", token: nanoid(), patches: change.patches as never });
}

const problem = async (work: Promise<unknown>): Promise<StorageProblem> => {
  const cause = await work.then(
    () => null,
    (error: unknown) => error,
  );
  expect(cause).toBeInstanceOf(StorageProblem);
  return cause as StorageProblem;
};

describe("what the storage cannot do is said, and nothing is lost", () => {
  test("locked by another program: read all the same, written when it lets go, a sentence when it does not", async () => {
    const db = await openDatabase(url());
    const id = await withEdits(db, "Held", 2);
    const other = connect(url());
    const held = await other.transaction("write");
    await held.execute("UPDATE jobs SET name = name");
    expect((await readJob(db, id)).document.parts[0]!.steps).toHaveLength(2);
    const waiting = addStep(db, id);
    setTimeout(() => void held.rollback(), 900);
    await waiting;
    expect((await readJob(db, id)).document.parts[0]!.steps).toHaveLength(3);

    const again = await other.transaction("write");
    await again.execute("UPDATE jobs SET name = name");
    expect((await problem(addStep(db, id))).code).toBe("locked");
    await again.rollback();
    expect((await readJob(db, id)).revision).toBe(4);

    // What was refused leaves nothing behind that the next edit would have to wait for.
    const tried = vi.spyOn(db, "transaction");
    await addStep(db, id);
    expect(tried).toHaveBeenCalledTimes(1);
  });

  test("a full disk: the edit is refused, the job stays, and it goes on when there is room", async () => {
    const db = await openDatabase(url());
    const id = await withEdits(db, "Full", 1);
    const { document } = await readJob(db, id);
    // Every connection asks for its own limit: the pages that there are, and none more.
    const client = (db as unknown as { $client: ReturnType<typeof connect> }).$client;
    const pages = Number((await client.execute("PRAGMA page_count")).rows[0]!.page_count);
    await client.execute(`PRAGMA max_page_count = ${pages}`);
    const text = "x".repeat(400_000);
    const request = { base: 2, label: "Large", token: nanoid() };
    const patches = [{ op: "add", path: ["files", 0], value: { id: "f", name: "f.step", text } }] as never;
    const { code, message } = await problem(edit(db, id, { ...request, patches }));
    expect([code, message]).toEqual(["full", expect.stringMatching(/The disk is full. Nothing was written/)]);
    expect((await readJob(db, id)).document).toEqual(document);
    await client.execute("PRAGMA max_page_count = 1000000");
    expect((await edit(db, id, { ...request, patches })).revision).toBe(3);
  });

  test("a database of a later release is read, never written", async () => {
    const id = await withEdits(await openDatabase(url()), "Later", 1);
    const client = connect(url());
    await client.execute("INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('later', 99999999999999)");
    const before = readFileSync(file);
    const db = await openDatabase(url());
    expect((await readJob(db, id)).document.name).toBe("Later");
    expect(await listSummaries(db)).toHaveLength(1);
    for (const work of [addStep(db, id), createJob(db, { name: "x", units: "mm" }), keepFile(db, "f.step", STEP)])
      expect((await problem(work)).code).toBe("newer");
    expect(readFileSync(file).equals(before)).toBe(true);
  });

  test("a file that is no database, and one cut short", async () => {
    writeFileSync(file, "This is a letter, not a database. ".repeat(200));
    expect((await problem(openDatabase(url()))).message).toMatch(/damaged.*npm run restore/);
  });

  test("an upgrade keeps the old file, whole, and the jobs go on with their undo", async () => {
    // As the first release made it: its own tables, and a log without what lies under each change.
    const client = connect(url());
    await client.executeMultiple(readFileSync(path.join(MIGRATIONS, "0000_init.sql"), "utf8"));
    const { entries } = JSON.parse(readFileSync(path.join(MIGRATIONS, "meta", "_journal.json"), "utf8"));
    await client.execute(
      "CREATE TABLE __drizzle_migrations (id INTEGER PRIMARY KEY, hash text NOT NULL, created_at numeric)",
    );
    await client.execute({ sql: "INSERT INTO __drizzle_migrations VALUES (1, 'x', ?)", args: [entries[0].when] });
    const document = JSON.stringify({
      format: "bold-seam-job",
      version: 1,
      name: "New",
      units: "mm",
      files: [],
      parts: [{ id: "p", name: "P", steps: [], hold: null, names: {} }],
    });
    await client.execute({ sql: "INSERT INTO jobs VALUES ('old', 'New', ?, 2, 0, 0)", args: [document] });
    const patches = (name: string) => JSON.stringify([{ op: "replace", path: ["name"], value: name }]);
    await client.execute({
      sql: "INSERT INTO changes VALUES (1, 'old', 2, 'edit', NULL, 'Call it New', 't', ?, ?, 0)",
      args: [patches("New"), patches("Old")],
    });
    client.close();
    const db = await openDatabase(url());
    const kept = readdirSync(path.dirname(file)).filter((name) => name.includes("before-upgrade"));
    expect(kept).toEqual(["jobs.before-upgrade-1.db"]);
    const old = connect(`file:${path.join(path.dirname(file), kept[0]!)}`);
    expect((await old.execute("SELECT document FROM jobs")).rows[0]!.document).toBe(document);
    expect(await listSummaries(db)).toMatchObject([{ name: "New", parts: [{ name: "P", steps: 0 }] }]);
    expect((await undo(db, "old", 2)).redo).toBe("Call it New");
    expect((await readJob(db, "old")).document.name).toBe("Old");
    // Opened once more, nothing is upgraded, and nothing more is kept.
    await openDatabase(url());
    expect(readdirSync(path.dirname(file)).filter((name) => name.includes("before-upgrade"))).toHaveLength(1);
  });
});

describe("backup and restore", () => {
  test("made while edits come in: every job opens, with its undo and files; the database file alone would miss some", async () => {
    const db = await openDatabase(url());
    const id = await withEdits(db, "Work", 20);
    const { sha256 } = await keepFile(db, "f.step", STEP);
    const backup = path.join(path.dirname(file), "kept", "backup.db");
    const writing = (async () => {
      for (let i = 0; i < 30; i++) await addStep(db, id);
    })();
    const contents = await backUp(url(), backup);
    await writing;
    expect(contents).toMatchObject({ jobs: 1, files: 1 });
    const copy = await openDatabase(`file:${backup}`);
    const { document, revision } = await readJob(copy, id);
    expect(document.parts[0]!.steps).toHaveLength(revision - 1);
    expect(revision).toBeGreaterThanOrEqual(21);
    await undo(copy, id, revision);
    expect((await readJob(copy, id)).document.parts[0]!.steps).toHaveLength(revision - 2);
    // The file by itself, without what stands in the write-ahead log: why a copy of it is no backup.
    const alone = path.join(folder, `alone-${n}.db`);
    copyFileSync(file, alone);
    const bare = connect(`file:${alone}`);
    const found = await bare.execute("SELECT revision FROM jobs").catch(() => ({ rows: [] }));
    expect(found.rows[0]?.revision).not.toBe(51);
    expect(await fileBytes(copy, sha256)).toEqual(STEP);
  });

  test("restored under a running server: what was there is kept beside it, and the server goes on", async () => {
    const db = await openDatabase(url());
    const id = await withEdits(db, "Then", 3);
    const backup = path.join(path.dirname(file), "backup.db");
    await backUp(url(), backup);
    await addStep(db, id);
    const later = await withEdits(db, "Later", 1);
    const { before, ...contents } = await restore(url(), backup);
    expect(contents).toEqual({ jobs: 1, changes: 3, files: 0 });
    expect((await readJob(db, id)).revision).toBe(4);
    await expect(readJob(db, later)).rejects.toThrow(/no such job/);
    await addStep(db, id);
    expect((await readJob(db, id)).revision).toBe(5);
    const kept = await openDatabase(`file:${before}`);
    expect((await readJob(kept, later)).document.name).toBe("Later");
    expect(existsSync(`${file}.restoring`)).toBe(false);
  });

  test("a damaged database gives way to the backup, and is kept as it is", async () => {
    const id = await withEdits(await openDatabase(url()), "Kept", 2);
    const backup = path.join(path.dirname(file), "backup.db");
    await backUp(url(), backup);
    const [other] = [path.join(path.dirname(file), "broken.db")];
    writeFileSync(other, "x".repeat(9000));
    const { before } = await restore(`file:${other}`, backup);
    expect(readFileSync(before!, "utf8")).toBe("x".repeat(9000));
    expect((await readJob(await openDatabase(`file:${other}`), id)).revision).toBe(3);
  });

  test("what is no backup is refused with a sentence, and changes nothing", async () => {
    const db = await openDatabase(url());
    const id = await withEdits(db, "Safe", 1);
    const letter = path.join(path.dirname(file), "letter.db");
    writeFileSync(letter, "Dear reader. ".repeat(500));
    const empty = path.join(path.dirname(file), "empty.db");
    const client = connect(`file:${empty}`);
    await client.execute("CREATE TABLE other (x)");
    client.close();
    const backup = path.join(path.dirname(file), "b.db");
    await backUp(url(), backup);
    const spoilt = path.join(path.dirname(file), "spoilt.db");
    const bytes = readFileSync(backup);
    bytes.fill(7, 4096, 9000);
    writeFileSync(spoilt, bytes);
    for (const bad of [letter, empty, spoilt, path.join(folder, "nowhere.db")])
      expect((await problem(restore(url(), bad))).code).toBe("not-a-backup");
    expect((await problem(backUp(url(), backup))).message).toMatch(/is there already/);
    expect((await problem(backUp("libsql://somewhere", backup))).message).toMatch(/kept by a server/);
    expect((await readJob(db, id)).revision).toBe(2);
  });
});
