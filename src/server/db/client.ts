import { mkdirSync } from "node:fs";
import path from "node:path";
import { createClient } from "@libsql/client";
import { drizzle, type LibSQLDatabase } from "drizzle-orm/libsql";
import { migrate } from "drizzle-orm/libsql/migrator";
import * as schema from "./schema";

export type Database = LibSQLDatabase<typeof schema>;

/** `file:` by default; a `libsql:` server by setting DATABASE_URL (and DATABASE_TOKEN). */
export function databaseUrl(): string {
  return process.env.DATABASE_URL ?? `file:${path.join(process.cwd(), "data", "bold-seam.db")}`;
}

/** Opens a database and brings its tables up to date. */
export async function openDatabase(url: string, token = process.env.DATABASE_TOKEN): Promise<Database> {
  if (url.startsWith("file:")) mkdirSync(path.dirname(url.slice("file:".length)), { recursive: true });
  const client = createClient({ url, ...(token ? { authToken: token } : {}) });
  if (url.startsWith("file:")) {
    await client.execute("PRAGMA journal_mode = WAL");
    await client.execute("PRAGMA synchronous = FULL");
    await client.execute("PRAGMA busy_timeout = 5000");
    await client.execute("PRAGMA foreign_keys = ON");
  }
  const database = drizzle(client, { schema });
  await migrate(database, { migrationsFolder: path.join(process.cwd(), "src", "server", "migrations") });
  return database;
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
