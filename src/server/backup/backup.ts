import { existsSync, mkdirSync, renameSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import type { Client } from "@libsql/client";
import { connect, fileOf, openDatabase } from "../db/client";
import { asStorageProblem, StorageProblem } from "../db/storage";
import { ageOf } from "../db/versions";

/** Tables that hold what people made, those that others point to first; computed results are left out. */
const TABLES = ["jobs", "changes", "files"] as const;

export interface Contents {
  jobs: number;
  changes: number;
  files: number;
}

/**
 * Copies a database as it is at one moment, while others write to it, into a file of its own: with all that still stands
 * in the write-ahead log, which the database file alone misses.
 * @throws StorageProblem when there is nothing to copy, the file is there already, or what was written is not sound.
 */
export async function backUp(url: string, to: string): Promise<Contents> {
  const from = fileToRead(url);
  if (existsSync(to))
    throw new StorageProblem("not-a-backup", `“${to}” is there already. Give a name that is not taken.`);
  mkdirSync(path.dirname(path.resolve(to)), { recursive: true });
  const part = `${to}.part`;
  rmSync(part, { force: true });
  const source = connect(`file:${from}`);
  try {
    await source.execute({ sql: "VACUUM INTO ?", args: [path.resolve(part)] });
    const contents = await lookInto(part);
    renameSync(part, to);
    return contents;
  } catch (cause) {
    throw asStorageProblem(cause) ?? cause;
  } finally {
    source.close();
    rmSync(part, { force: true });
  }
}

/**
 * Puts what a backup holds in the place of what a database holds, in one step that happens whole or not at all, while others
 * read. What was there is kept in a file beside it.
 * @returns what came in, and where what was there before is kept; null where there was nothing.
 * @throws StorageProblem when the file is no sound backup: then nothing was changed.
 */
export async function restore(url: string, from: string): Promise<Contents & { before: string | null }> {
  const target = fileOf(url);
  if (!target) throw new StorageProblem("not-a-backup", SERVER);
  if (!existsSync(from) || !statSync(from).isFile())
    throw new StorageProblem("not-a-backup", `There is no file “${from}”.`);
  // Worked on as a copy: one of an earlier release is brought up to date first, and the backup stays as it is.
  const copy = `${target}.restoring`;
  for (const end of ["", "-wal", "-shm"]) rmSync(copy + end, { force: true });
  try {
    await lookInto(from);
    const source = connect(`file:${path.resolve(from)}`);
    mkdirSync(path.dirname(path.resolve(target)), { recursive: true });
    await source.execute({ sql: "VACUUM INTO ?", args: [path.resolve(copy)] }).finally(() => source.close());
    await openDatabase(`file:${copy}`);
    const contents = await lookInto(copy);
    const before = await setAside(target);
    await openDatabase(url);
    await replaceAll(target, copy);
    return { ...contents, before };
  } catch (cause) {
    throw asStorageProblem(cause) ?? cause;
  } finally {
    for (const end of ["", "-wal", "-shm"]) rmSync(copy + end, { force: true });
  }
}

const SERVER =
  "This database is kept by a server: use its own tools, or save all jobs as one file from the list of jobs.";

function fileToRead(url: string): string {
  const file = fileOf(url);
  if (!file) throw new StorageProblem("not-a-backup", SERVER);
  if (!existsSync(file)) throw new StorageProblem("not-a-backup", `There is no database at “${file}”.`);
  return file;
}

/** What a database file holds. @throws StorageProblem when it is damaged, of a later release, or something else. */
async function lookInto(file: string): Promise<Contents> {
  const client = connect(`file:${path.resolve(file)}`);
  try {
    const check = await client.execute("PRAGMA integrity_check");
    if (check.rows[0]?.integrity_check !== "ok")
      throw new StorageProblem("not-a-backup", `“${file}” is damaged. Nothing was changed; take another backup.`);
    const age = await ageOf(client);
    if (age === "newer")
      throw new StorageProblem("newer", `A later release wrote “${file}”. Restore it with that release.`);
    if (age === "empty") throw new StorageProblem("not-a-backup", `“${file}” holds no jobs: it is no backup of this.`);
    const [jobs, changes, files] = await Promise.all(TABLES.map((table) => count(client, table)));
    return { jobs: jobs!, changes: changes!, files: files! };
  } catch (cause) {
    const problem = asStorageProblem(cause);
    if (problem && problem.code !== "damaged") throw problem;
    throw new StorageProblem("not-a-backup", `“${file}” is no sound backup. Nothing was changed; take another.`);
  } finally {
    client.close();
  }
}

async function count(client: Client, table: (typeof TABLES)[number]): Promise<number> {
  return Number((await client.execute(`SELECT count(*) AS n FROM ${table}`)).rows[0]!.n);
}

/** Keeps what a database holds in a file beside it. One that is damaged is moved there as it is. */
async function setAside(file: string): Promise<string | null> {
  if (!existsSync(file) || statSync(file).size === 0) return null;
  const free = (n: number): string => {
    const name = `${file.replace(/\.db$/, "")}.before-restore-${n}.db`;
    return existsSync(name) ? free(n + 1) : name;
  };
  const kept = free(1);
  const client = connect(`file:${file}`);
  try {
    await client.execute({ sql: "VACUUM INTO ?", args: [kept] });
  } catch (cause) {
    if (asStorageProblem(cause)?.code !== "damaged") throw cause;
    rmSync(kept, { force: true });
    for (const end of ["", "-wal", "-shm"]) if (existsSync(file + end)) renameSync(file + end, kept + end);
  } finally {
    client.close();
  }
  return kept;
}

async function replaceAll(target: string, copy: string): Promise<void> {
  const client = connect(`file:${target}`);
  try {
    const columns = async (table: string) =>
      (await client.execute(`SELECT name FROM pragma_table_info('${table}')`)).rows
        .map(({ name }) => `"${name}"`)
        .join(", ");
    const moves = await Promise.all(
      TABLES.map(async (table) => {
        const names = await columns(table);
        return `INSERT INTO main.${table} (${names}) SELECT ${names} FROM old.${table};`;
      }),
    );
    await client.executeMultiple(
      [
        `ATTACH DATABASE '${path.resolve(copy).replace(/'/g, "''")}' AS old;`,
        "BEGIN IMMEDIATE;",
        ...[...TABLES].reverse().map((table) => `DELETE FROM main.${table};`),
        ...moves,
        "COMMIT;",
        "DETACH DATABASE old;",
      ].join("\n"),
    );
  } finally {
    client.close();
  }
}
