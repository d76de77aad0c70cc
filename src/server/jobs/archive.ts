import { desc } from "drizzle-orm";
import { strToU8, type Zippable, zip } from "fflate";
import type { Job } from "@/core/job";
import type { Database } from "../db/client";
import { jobs } from "../db/schema";
import { fileBytes } from "../files/service";
import { readJob } from "./service";

/**
 * All jobs as one ZIP file: a job file each, and the files that they bring in beside them, as the command line reads them.
 * What cannot be read is listed in a file of its own, not passed over.
 */
export async function archive(db: Database): Promise<Uint8Array> {
  const entries: Zippable = {};
  const left: string[] = [];
  const names = new Set<string>();
  const rows = await db.select({ id: jobs.id, name: jobs.name }).from(jobs).orderBy(desc(jobs.updatedAt));
  for (const { id, name } of rows) {
    try {
      const { document } = await readJob(db, id);
      const files: Job["files"] = [];
      for (const file of document.files) {
        if (!file.sha256) {
          files.push(file);
          continue;
        }
        const place = `files/${file.sha256}.step`;
        entries[place] ??= await fileBytes(db, file.sha256);
        files.push({ ...file, path: place });
      }
      entries[freeName(name, names)] = strToU8(`${JSON.stringify({ ...document, files }, null, 1)}\n`);
    } catch (cause) {
      left.push(`${name} (${id}): ${cause instanceof Error ? cause.message : String(cause)}`);
    }
  }
  if (left.length > 0) entries["not-saved.txt"] = strToU8(`${left.join("\n")}\n`);
  return new Promise((resolve, reject) => {
    zip(entries, { level: 6 }, (fault, data) => (fault ? reject(fault) : resolve(data)));
  });
}

/** A file name that any system takes, and that no other job of the archive has. */
function freeName(job: string, taken: Set<string>): string {
  const plain =
    job
      .replace(/[^\p{L}\p{N} ._-]/gu, "_")
      .trim()
      .slice(0, 80) || "Job";
  for (let n = 1; ; n++) {
    const name = `${plain}${n === 1 ? "" : ` (${n})`}.json`;
    if (taken.has(name.toLowerCase())) continue;
    taken.add(name.toLowerCase());
    return name;
  }
}
