import { mkdirSync } from "node:fs";
import path from "node:path";
import { type Client, createClient } from "@libsql/client";
import { drizzle, type LibSQLDatabase } from "drizzle-orm/libsql";
import { migrate } from "drizzle-orm/libsql/migrator";
import * as schema from "./schema";
import { asStorageProblem, StorageProblem } from "./storage";
import { ageOf, keepOld, MIGRATIONS } from "./versions";

export type Database = LibSQLDatabase<typeof schema>;

/** `file:` by default; a `libsql:` server by setting DATABASE_URL (and DATABASE_TOKEN). */
export function databaseUrl(): string {
  return process.env.DATABASE_URL ?? `file:${path.join(process.cwd(), "data", "bold-seam.db")}`;
}

/** The path of the file that a database is kept in; null where a server keeps it. */
export const fileOf = (url: string): string | null =>
  url.startsWith("file:") ? url.slice("file:".length).split("?")[0]! : null;

/**
 * How long, ms, every connection waits for another program to let go of the file. The driver waits with everything else
 * standing still, so it is short; `transact` waits on, with everything else going.
 */
const PATIENCE = 500;

export function connect(url: string, token = process.env.DATABASE_TOKEN): Client {
  return createClient({ url, timeout: PATIENCE, ...(token ? { authToken: token } : {}) });
}

/** Why a database is only read, where it is. */
const onlyRead = new WeakMap<object, StorageProblem>();

/** @throws StorageProblem when nothing may be written. */
export function refuseReadOnly(db: Database): void {
  const why = onlyRead.get(db);
  if (why) throw why;
}

/**
 * Opens a database and brings its tables up to date; the file of an earlier release is kept beside it. One that a later
 * release wrote, or that may not be written, is opened to be read.
 * @throws StorageProblem when it cannot be used at all.
 */
export async function openDatabase(url: string, token = process.env.DATABASE_TOKEN): Promise<Database> {
  const file = fileOf(url);
  try {
    if (file) mkdirSync(path.dirname(file), { recursive: true });
    const client = connect(url, token);
    const database = drizzle(client, { schema });
    const age = await ageOf(client);
    if (age === "newer") {
      onlyRead.set(
        database,
        new StorageProblem(
          "newer",
          "A later release of the program wrote this database. It is only read here; start the later release to write.",
        ),
      );
      return database;
    }
    try {
      if (file) {
        await client.execute("PRAGMA journal_mode = WAL");
        if (age === "older") await keepOld(client, file);
      }
      if (age !== "same") await migrate(database, { migrationsFolder: MIGRATIONS });
    } catch (cause) {
      const problem = asStorageProblem(cause);
      // What can be read is read, as long as its tables are those of this release.
      if (problem?.code !== "read-only" || age !== "same") throw cause;
      onlyRead.set(database, problem);
    }
    return database;
  } catch (cause) {
    throw asStorageProblem(cause) ?? cause;
  }
}

const opened = globalThis as { boldSeamDatabase?: Promise<Database> };

/** The server's database, opened at its first use. */
export function database(): Promise<Database> {
  opened.boldSeamDatabase ??= openDatabase(databaseUrl()).catch((cause) => {
    delete opened.boldSeamDatabase;
    throw cause;
  });
  return opened.boldSeamDatabase;
}
