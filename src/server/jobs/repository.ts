import { and, asc, desc, eq, gt } from "drizzle-orm";
import type { Database } from "../db/client";
import { changes, jobs } from "../db/schema";

export type JobRow = typeof jobs.$inferSelect;
export type ChangeRow = typeof changes.$inferSelect;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];
type Reader = Database | Transaction;

export type JobLine = Omit<JobRow, "document" | "undoTop" | "redoTop" | "hasTops">;

/** All jobs without their documents, the latest first. */
export function listJobs(db: Reader): Promise<JobLine[]> {
  const { id, name, revision, outline, createdAt, updatedAt } = jobs;
  return db.select({ id, name, revision, outline, createdAt, updatedAt }).from(jobs).orderBy(desc(jobs.updatedAt));
}

export async function writeOutline(db: Reader, id: string, revision: number, outline: string): Promise<void> {
  await db
    .update(jobs)
    .set({ outline })
    .where(and(eq(jobs.id, id), eq(jobs.revision, revision)));
}

export async function findJob(db: Reader, id: string): Promise<JobRow | undefined> {
  return (await db.select().from(jobs).where(eq(jobs.id, id)))[0];
}

export async function insertJob(db: Reader, row: JobRow): Promise<void> {
  await db.insert(jobs).values(row);
}

/** Replaces the document if the revision is still the expected one; tells whether it was. */
export async function writeDocument(
  db: Reader,
  id: string,
  expected: number,
  next: Pick<JobRow, "name" | "document" | "outline">,
): Promise<boolean> {
  const written = await db
    .update(jobs)
    .set({ ...next, revision: expected + 1, updatedAt: new Date() })
    .where(and(eq(jobs.id, id), eq(jobs.revision, expected)));
  return written.rowsAffected === 1;
}

export async function deleteJob(db: Reader, id: string): Promise<void> {
  await db.delete(changes).where(eq(changes.job, id));
  await db.delete(jobs).where(eq(jobs.id, id));
}

/** Adds a change to the log; its id. */
export async function appendChange(db: Reader, row: Omit<ChangeRow, "id">): Promise<number> {
  const [added] = await db.insert(changes).values(row).returning({ id: changes.id });
  return added!.id;
}

export async function writeTops(db: Reader, id: string, undoTop: number | null, redoTop: number | null): Promise<void> {
  await db.update(jobs).set({ undoTop, redoTop, hasTops: true }).where(eq(jobs.id, id));
}

export async function writeUnder(db: Reader, change: number, under: number | null): Promise<void> {
  await db.update(changes).set({ under }).where(eq(changes.id, change));
}

/** What a change is called. */
export async function labelOf(db: Reader, change: number | null): Promise<string | null> {
  if (change === null) return null;
  return (await db.select({ label: changes.label }).from(changes).where(eq(changes.id, change)))[0]?.label ?? null;
}

/** The log from the first change on, without the patches, which the stacks do not need. */
export function readLog(
  db: Reader,
  job: string,
): Promise<Pick<ChangeRow, "id" | "revision" | "kind" | "of" | "label">[]> {
  return db
    .select({ id: changes.id, revision: changes.revision, kind: changes.kind, of: changes.of, label: changes.label })
    .from(changes)
    .where(eq(changes.job, job))
    .orderBy(asc(changes.revision));
}

export async function findChange(db: Reader, id: number): Promise<ChangeRow | undefined> {
  return (await db.select().from(changes).where(eq(changes.id, id)))[0];
}

export function changesSince(
  db: Reader,
  job: string,
  revision: number,
): Promise<{ label: string; revision: number; at: Date }[]> {
  return db
    .select({ label: changes.label, revision: changes.revision, at: changes.at })
    .from(changes)
    .where(and(eq(changes.job, job), gt(changes.revision, revision)))
    .orderBy(asc(changes.revision));
}

export async function hasToken(db: Reader, job: string, token: string): Promise<boolean> {
  const found = await db
    .select({ id: changes.id })
    .from(changes)
    .where(and(eq(changes.job, job), eq(changes.token, token)));
  return found.length > 0;
}
