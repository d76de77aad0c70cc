import { nanoid } from "nanoid";
import type * as z from "zod";
import { SeamError } from "@/core/errors";
import {
  applyChange,
  checkJob,
  emptyJob,
  type Job,
  type JobState,
  type JobSummary,
  type patchesSchema,
  upgradeJob,
  type Written,
} from "@/core/job";
import type { Database } from "../db/client";
import { transact } from "../db/transact";
import { HttpProblem } from "../http/problem";
import { stacksOf } from "./history";
import {
  appendChange,
  type ChangeRow,
  changesSince,
  deleteJob,
  findChange,
  findJob,
  hasToken,
  insertJob,
  type JobRow,
  labelOf,
  listJobs,
  readLog,
  type Transaction,
  writeDocument,
  writeOutline,
  writeTops,
  writeUnder,
} from "./repository";

/** What a write on an old revision is told: what happened since. */
export interface Conflict {
  revision: number;
  since: { label: string; at: string }[];
}

type Patches = z.infer<typeof patchesSchema>;

/** What the list of jobs says of a document. */
const outlineOf = ({ units, parts }: Job): string =>
  JSON.stringify({ units, parts: parts.map((part) => ({ name: part.name, steps: part.steps.length })) });

/** All jobs, the latest first. No document is read but those that an earlier release wrote, once. */
export async function listSummaries(db: Database): Promise<JobSummary[]> {
  return Promise.all(
    (await listJobs(db)).map(async ({ id, name, revision, outline, createdAt, updatedAt }) => {
      const times = { createdAt: createdAt.toISOString(), updatedAt: updatedAt.toISOString() };
      try {
        const known = outline ?? (await outlined(db, id, revision));
        return { id, name, revision, ...(JSON.parse(known) as Pick<JobSummary, "units" | "parts">), ...times };
      } catch {
        return { id, name, revision, units: "mm" as const, parts: [], ...times, fault: "Its record is damaged." };
      }
    }),
  );
}

async function outlined(db: Database, id: string, revision: number): Promise<string> {
  const outline = outlineOf(documentOf(await jobOr404(db, id)));
  await writeOutline(db, id, revision, outline).catch(() => {});
  return outline;
}

export async function createJob(
  db: Database,
  wanted: { name: string; units: Job["units"] } | { document: unknown },
): Promise<JobState> {
  const document = "document" in wanted ? checkJob(wanted.document) : emptyJob(wanted.name, wanted.units);
  const now = new Date();
  const row: JobRow = {
    id: nanoid(12),
    name: document.name,
    document: JSON.stringify(document),
    revision: 1,
    outline: outlineOf(document),
    undoTop: null,
    redoTop: null,
    hasTops: true,
    createdAt: now,
    updatedAt: now,
  };
  refuseHuge(row.document);
  await transact(db, (tx) => insertJob(tx, row));
  return stateOf(db, row);
}

export async function readJob(db: Database, id: string): Promise<JobState> {
  return stateOf(db, await jobOr404(db, id));
}

export async function removeJob(db: Database, id: string): Promise<void> {
  await jobOr404(db, id);
  await transact(db, (tx) => deleteJob(tx, id));
}

/**
 * Applies an edit made on revision `base`. An edit whose token the log has already is not done twice.
 * @throws HttpProblem 409 with what happened since, when `base` is not the latest revision.
 */
export async function edit(
  db: Database,
  id: string,
  { base, label, token, patches }: { base: number; label: string; token: string; patches: Patches },
): Promise<Written> {
  if (await hasToken(db, id, token)) return again(db, id);
  return write(db, id, base, async (tx, row) => {
    const { job: next, inverse, asSent } = applyChange(documentOf(row), patches);
    const change = await log(tx, row, {
      kind: "edit",
      of: null,
      under: row.undoTop,
      label,
      token,
      patches: JSON.stringify(patches),
      inverse: JSON.stringify(inverse),
    });
    return { next, undoTop: change, redoTop: null, answer: asSent ? {} : { document: next } };
  });
}

/** The answer to an edit that was done already, whose first answer was lost. */
async function again(db: Database, id: string): Promise<Written> {
  const { revision, undo: back, redo: forward, document } = await readJob(db, id);
  return { id, revision, undo: back, redo: forward, document };
}

export async function undo(db: Database, id: string, base: number): Promise<Written> {
  return write(db, id, base, async (tx, row) => {
    if (row.undoTop === null) throw new HttpProblem(400, "nothing-to-undo", "There is nothing to undo.");
    const target = (await findChange(tx, row.undoTop))!;
    const done = travelled(row, target.inverse);
    const entry = { of: target.id, label: target.label, token: null, patches: target.inverse, inverse: target.patches };
    const change = await log(tx, row, { kind: "undo", under: row.redoTop, ...entry });
    return { ...done, undoTop: target.under, redoTop: change };
  });
}

export async function redo(db: Database, id: string, base: number): Promise<Written> {
  return write(db, id, base, async (tx, row) => {
    const taken = row.redoTop === null ? undefined : await findChange(tx, row.redoTop);
    const target = taken?.of ? await findChange(tx, taken.of) : undefined;
    if (!taken || !target) throw new HttpProblem(400, "nothing-to-redo", "There is nothing to redo.");
    const done = travelled(row, target.patches);
    const entry = { of: target.id, label: target.label, token: null, patches: target.patches, inverse: target.inverse };
    await log(tx, row, { kind: "redo", under: null, ...entry });
    return { ...done, undoTop: target.id, redoTop: taken.under };
  });
}

/** A document with patches of the log applied, and what the asker needs to do the same. */
function travelled(row: JobRow, text: string) {
  const patches = JSON.parse(text) as Patches;
  const { job: next, asSent } = applyChange(documentOf(row), patches);
  return { next, answer: asSent ? { patches: patches as Written["patches"] } : { document: next } };
}

const log = (tx: Transaction, row: JobRow, change: Omit<ChangeRow, "id" | "job" | "revision" | "at">) =>
  appendChange(tx, { job: row.id, revision: row.revision + 1, at: new Date(), ...change });

async function write(
  db: Database,
  id: string,
  base: number,
  make: (
    tx: Transaction,
    row: JobRow,
  ) => Promise<{
    next: Job;
    undoTop: number | null;
    redoTop: number | null;
    answer: Pick<Written, "patches" | "document">;
  }>,
): Promise<Written> {
  return transact(db, async (tx) => {
    const row = await settled(tx, await jobOr404(tx, id));
    if (row.revision !== base) throw await conflict(tx, row, base);
    const { next, undoTop, redoTop, answer } = await make(tx, row);
    const document = JSON.stringify(next);
    refuseHuge(document);
    const written = await writeDocument(tx, id, base, { name: next.name, document, outline: outlineOf(next) });
    if (!written) throw await conflict(tx, row, base);
    await writeTops(tx, id, undoTop, redoTop);
    const [back, forward] = [await labelOf(tx, undoTop), await labelOf(tx, redoTop)];
    return { id, revision: base + 1, undo: back, redo: forward, ...answer };
  });
}

/** A row with the tops of its stacks: those that an earlier release left out are read off the log, once. */
async function settled(tx: Transaction, row: JobRow): Promise<JobRow> {
  if (row.hasTops) return row;
  const { undoTop, redoTop, under } = stacksOf(await readLog(tx, row.id));
  for (const [change, below] of under) await writeUnder(tx, change, below);
  await writeTops(tx, row.id, undoTop, redoTop);
  return { ...row, undoTop, redoTop, hasTops: true };
}

/** The longest document that is kept, in letters. */
const LONGEST = 16 * 1024 * 1024;

function refuseHuge(document: string): void {
  if (document.length > LONGEST)
    throw new HttpProblem(
      413,
      "job-too-large",
      `With this the job would be larger than ${LONGEST / 1024 / 1024} MB. Take something out, or make a second job.`,
    );
}

async function conflict(tx: Transaction, row: JobRow, base: number): Promise<HttpProblem> {
  const since = (await changesSince(tx, row.id, base)).map(({ label, at }) => ({ label, at: at.toISOString() }));
  const detail: Conflict = { revision: row.revision, since };
  return new HttpProblem(
    409,
    "stale",
    "This job was changed elsewhere since you opened it. Nothing of yours was written, and nothing there was changed.",
    detail,
  );
}

async function stateOf(db: Database, row: JobRow): Promise<JobState> {
  const { undoTop, redoTop } = row.hasTops ? row : stacksOf(await readLog(db, row.id));
  return {
    id: row.id,
    revision: row.revision,
    document: documentOf(row),
    undo: await labelOf(db, undoTop),
    redo: await labelOf(db, redoTop),
  };
}

/** @throws HttpProblem when the row is damaged: its job alone cannot be opened. */
function documentOf(row: Pick<JobRow, "document" | "name">): Job {
  try {
    return upgradeJob(JSON.parse(row.document) as Job);
  } catch (cause) {
    if (cause instanceof SeamError) throw new HttpProblem(409, cause.trouble.code, cause.message);
    throw new HttpProblem(
      409,
      "job-damaged",
      `The record of “${row.name}” is damaged and cannot be opened. Restore it from a backup; other jobs are not touched.`,
    );
  }
}

async function jobOr404(db: Database | Transaction, id: string): Promise<JobRow> {
  return (
    (await findJob(db, id)) ??
    Promise.reject(new HttpProblem(404, "job-missing", "There is no such job. It may have been deleted."))
  );
}
