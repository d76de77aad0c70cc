import { readFile, stat } from "node:fs/promises";
import { fail } from "@/core/errors";

export function printJson(value: unknown): void {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
}

/** Larger files than this are refused before they are read. */
const LARGEST = 200 * 1024 * 1024;

export async function readInput(path: string): Promise<Uint8Array> {
  try {
    // What it is, and how large, is asked before it is read: a device never ends, and a pipe may never begin.
    const facts = await stat(path);
    if (facts.isDirectory()) fail("file-missing", `“${path}” is a folder, not a file.`);
    if (!facts.isFile()) fail("file-missing", `“${path}” is no ordinary file. Give the path of one.`);
    if (facts.size > LARGEST) fail("file-too-large", `“${path}” is larger than 200 MB.`);
    return new Uint8Array(await readFile(path));
  } catch (cause) {
    const code = (cause as NodeJS.ErrnoException).code;
    if (code === "ENOENT") fail("file-missing", `There is no file “${path}”.`);
    if (code === "ENOTDIR" || code === "ENAMETOOLONG" || code === "ELOOP" || code === "ERR_INVALID_ARG_VALUE")
      fail("file-missing", `There is no file “${path}”.`);
    if (code === "EACCES") fail("file-missing", `“${path}” may not be read.`);
    throw cause;
  }
}
