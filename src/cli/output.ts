import { readFile } from "node:fs/promises";
import { fail } from "@/core/errors";

export function printJson(value: unknown): void {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
}

/** Larger files than this are refused before they are read. */
const LARGEST = 200 * 1024 * 1024;

export async function readInput(path: string): Promise<Uint8Array> {
  try {
    const bytes = new Uint8Array(await readFile(path));
    if (bytes.length > LARGEST) fail("file-too-large", `“${path}” is larger than 200 MB.`);
    return bytes;
  } catch (cause) {
    const code = (cause as NodeJS.ErrnoException).code;
    if (code === "ENOENT") fail("file-missing", `There is no file “${path}”.`);
    if (code === "EISDIR") fail("file-missing", `“${path}” is a folder, not a file.`);
    if (code === "EACCES") fail("file-missing", `“${path}” may not be read.`);
    throw cause;
  }
}
