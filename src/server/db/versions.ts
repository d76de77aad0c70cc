import { existsSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import type { Client } from "@libsql/client";

export const MIGRATIONS = path.join(process.cwd(), "src", "server", "migrations");

/** The steps by which tables came to be as this release has them: when each was made, the latest last. */
function knownSteps(): number[] {
  const journal = JSON.parse(readFileSync(path.join(MIGRATIONS, "meta", "_journal.json"), "utf8")) as {
    entries: { when: number }[];
  };
  return journal.entries.map(({ when }) => when);
}

export type Age = "empty" | "older" | "same" | "newer";

/** Whether a database was last written by an earlier release, this one or a later one. */
export async function ageOf(client: Client): Promise<Age> {
  const tables = await client.execute("SELECT count(*) AS n FROM sqlite_master WHERE name = '__drizzle_migrations'");
  if (Number(tables.rows[0]!.n) === 0) return "empty";
  const found = await client.execute("SELECT max(created_at) AS latest FROM __drizzle_migrations");
  const latest = Number(found.rows[0]!.latest ?? 0);
  const newest = knownSteps().at(-1)!;
  return latest === 0 ? "empty" : latest > newest ? "newer" : latest < newest ? "older" : "same";
}

/** Keeps a database file as an earlier release left it, whole, beside it. Returns the path of what was kept. */
export async function keepOld(client: Client, file: string): Promise<string | null> {
  if (!existsSync(file) || statSync(file).size === 0) return null;
  for (let n = 1; ; n++) {
    const kept = `${file.replace(/\.db$/, "")}.before-upgrade-${n}.db`;
    if (existsSync(kept)) continue;
    await client.execute({ sql: "VACUUM INTO ?", args: [kept] });
    return kept;
  }
}
