import { randomUUID } from "node:crypto";
import { open, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { HttpProblem } from "./problem";

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
  const tooLarge = () =>
    new HttpProblem(413, "too-large", `That is larger than the limit of ${Math.round(limit / 1024 / 1024)} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > limit) throw tooLarge();
  const file = path.join(tmpdir(), `bold-seam-upload-${randomUUID()}`);
  try {
    const target = await open(file, "wx", 0o600);
    let size = 0;
    try {
      const reader = request.body?.getReader();
      while (reader) {
        const { done, value } = await reader.read();
        if (done) break;
        size += value.byteLength;
        if (size > limit) {
          await reader.cancel();
          throw tooLarge();
        }
        await target.write(value);
      }
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
