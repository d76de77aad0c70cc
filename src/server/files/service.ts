import { eq } from "drizzle-orm";
import { checkPart21 } from "@/core/exchange/step";
import { hashBytes } from "@/core/hash";
import type { Database } from "../db/client";
import { files } from "../db/schema";
import { transact } from "../db/transact";
import { HttpProblem } from "../http/problem";

export const FILE_LIMIT = 100 * 1024 * 1024;

export interface KeptFile {
  sha256: string;
  name: string;
  size: number;
}

/** Keeps an imported file as it came. @throws SeamError when it is plainly no STEP file. */
export async function keepFile(db: Database, name: string, bytes: Uint8Array): Promise<KeptFile> {
  checkPart21(bytes, name);
  const sha256 = hashBytes(bytes);
  await transact(db, (tx) =>
    tx
      .insert(files)
      .values({ sha256, name, bytes: Buffer.from(bytes), size: bytes.length, createdAt: new Date() })
      .onConflictDoNothing(),
  );
  return { sha256, name, size: bytes.length };
}

export async function fileBytes(db: Database, sha256: string): Promise<Uint8Array> {
  const row = (await db.select({ bytes: files.bytes }).from(files).where(eq(files.sha256, sha256)))[0];
  if (!row) throw new HttpProblem(404, "file-missing", "That file is not kept here. Bring it in again.");
  return new Uint8Array(row.bytes);
}
