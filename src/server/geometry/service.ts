import { asc, eq, inArray, sql } from "drizzle-orm";
import { type Database, refuseReadOnly } from "../db/client";
import { geometry } from "../db/schema";

export const GEOMETRY_LIMIT = 64 * 1024 * 1024;
/** All stored results together; the ones unused for longest go first. */
const TOTAL_LIMIT = 1024 * 1024 * 1024;

export async function storedGeometry(db: Database, key: string): Promise<Uint8Array | null> {
  const row = (await db.select({ bytes: geometry.bytes }).from(geometry).where(eq(geometry.key, key)))[0];
  if (!row) return null;
  // When it was used last only tells what may go first: a database that cannot be written is read all the same.
  await db
    .update(geometry)
    .set({ usedAt: new Date() })
    .where(eq(geometry.key, key))
    .catch(() => {});
  return new Uint8Array(row.bytes);
}

export async function storeGeometry(db: Database, key: string, bytes: Uint8Array): Promise<void> {
  refuseReadOnly(db);
  const row = { key, bytes: Buffer.from(bytes), size: bytes.length, usedAt: new Date() };
  await db
    .insert(geometry)
    .values(row)
    .onConflictDoUpdate({ target: geometry.key, set: { bytes: row.bytes, size: row.size, usedAt: row.usedAt } });
  const [{ total } = { total: 0 }] = await db
    .select({ total: sql<number>`coalesce(sum(${geometry.size}), 0)` })
    .from(geometry);
  if (total <= TOTAL_LIMIT) return;
  let excess = total - TOTAL_LIMIT;
  const oldest = await db
    .select({ key: geometry.key, size: geometry.size })
    .from(geometry)
    .orderBy(asc(geometry.usedAt))
    .limit(500);
  const gone: string[] = [];
  for (const entry of oldest) {
    if (excess <= 0) break;
    gone.push(entry.key);
    excess -= entry.size;
  }
  await db.delete(geometry).where(inArray(geometry.key, gone));
}
