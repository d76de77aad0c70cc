import { randomUUID } from "node:crypto";
import { open, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { piecesOf } from "./body";

/** Uploads that are taken further one after the other: only one at a time is in memory as a whole. */
let last: Promise<unknown> = Promise.resolve();

/**
 * Takes a body as it comes into a file on the disk, up to a limit of bytes, then hands it over whole, when it is its turn.
 * The file is gone afterwards, whatever happens.
 * @throws HttpProblem 413 as soon as it is too long.
 */
export async function takeUpload<T>(
  request: Request,
  limit: number,
  work: (bytes: Uint8Array) => Promise<T>,
): Promise<T> {
  const file = path.join(tmpdir(), `bold-seam-upload-${randomUUID()}`);
  try {
    const target = await open(file, "wx", 0o600);
    try {
      for await (const piece of piecesOf(request, limit)) await target.write(piece);
    } finally {
      await target.close();
    }
    const result = last.then(async () => work(new Uint8Array(await readFile(file))));
    last = result.catch(() => {});
    return await result;
  } finally {
    await rm(file, { force: true });
  }
}
