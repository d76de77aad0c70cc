import { nanoid } from "nanoid";
import type { z } from "zod";
import {
  applyChange,
  checkJob,
  emptyJob,
  type Job,
  type JobState,
  type JobSummary,
  type patchesSchema,
  upgradeJob,
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
  listJobs,
  readLog,
  type Transaction,
  writeDocument,
} from "./repository";

/** What a write on an old revision is told: what happened since. */
export interface Conflict {
  revision: number;
  since: { label: string; at: string }[];
}

type Patches = z.infer<typeof patchesSchema>;

export async function listSummaries(db: Database): Promise<JobSummary[]> {
  return (await listJobs(db)).map((row) => {
    const document = JSON.parse(row.document) as Job;
    return {
      id: row.id,
      name: row.name,
      revision: row.revision,
      units: document.units,
      parts: document.parts.map((part) => ({ name: part.name, steps: part.steps.length })),
      createdAt: row.createdAt.toISOString(),
      updatedAt: row.updatedAt.toISOString(),
    };
  });
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
    createdAt: now,
    updatedAt: now,
  };
  await insertJob(db, row);
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
): Promise<JobState> {
  if (await hasToken(db, id, token)) return readJob(db, id);
  return write(db, id, base, async (_tx, job) => {
    const { job: next, inverse } = applyChange(job, patches);
    return {
      next,
      row: { kind: "edit", of: null, label, token, patches: JSON.stringify(patches), inverse: JSON.stringify(inverse) },
    };
  });
}

export async function undo(db: Database, id: string, base: number): Promise<JobState> {
  return step(db, id, base, "undo");
}

export async function redo(db: Database, id: string, base: number): Promise<JobState> {
  return step(db, id, base, "redo");
}

function step(db: Database, id: string, base: number, kind: "undo" | "redo"): Promise<JobState> {
  return write(db, id, base, async (tx, job) => {
    const target = stacksOf(await readLog(tx, id))[kind].at(-1);
    if (!target) throw new HttpProblem(400, `nothing-to-${kind}`, `There is nothing to ${kind}.`);
    const change = (await findChange(tx, target.id))!;
    const [forward, backward] = kind === "undo" ? [change.inverse, change.patches] : [change.patches, change.inverse];
    const { job: next } = applyChange(job, JSON.parse(forward));
    return {
      next,
      row: { kind, of: target.id, label: change.label, token: null, patches: forward, inverse: backward },
    };
  });
}

async function write(
  db: Database,
  id: string,
  base: number,
  make: (
    tx: Transaction,
    job: Job,
  ) => Promise<{
    next: Job;
    row: Omit<ChangeRow, "id" | "job" | "revision" | "at">;
  }>,
): Promise<JobState> {
  return transact(db, async (tx) => {
    const row = await jobOr404(tx, id);
    if (row.revision !== base) throw await conflict(tx, row, base);
    const { next, row: change } = await make(tx, documentOf(row));
    const document = JSON.stringify(next);
    if (!(await writeDocument(tx, id, base, { name: next.name, document }))) throw await conflict(tx, row, base);
    await appendChange(tx, { job: id, revision: base + 1, at: new Date(), ...change });
    return stateOf(tx, { ...row, document, name: next.name, revision: base + 1 });
  });
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

async function stateOf(db: Database | Transaction, row: JobRow): Promise<JobState> {
  const stacks = stacksOf(await readLog(db, row.id));
  return {
    id: row.id,
    revision: row.revision,
    document: documentOf(row),
    undo: stacks.undo.at(-1)?.label ?? null,
    redo: stacks.redo.at(-1)?.label ?? null,
  };
}

function documentOf(row: JobRow): Job {
  return upgradeJob(JSON.parse(row.document) as Job);
}

async function jobOr404(db: Database | Transaction, id: string): Promise<JobRow> {
  return (
    (await findJob(db, id)) ??
    Promise.reject(new HttpProblem(404, "job-missing", "There is no such job. It may have been deleted."))
  );
}
