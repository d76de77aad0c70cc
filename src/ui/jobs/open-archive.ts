import { unzip } from "fflate";
import { type Job, parseJob } from "@/core/job";
import { api } from "../state/api";

/** What came of a file of jobs: how many came in, and what is wrong with the others. */
export interface Opened {
  ids: string[];
  faults: string[];
}

/** Brings in all jobs of a ZIP file as “Save all jobs” makes it, each as a job of its own beside those that are there. */
export async function openArchive(bytes: Uint8Array): Promise<Opened> {
  const entries = await new Promise<Record<string, Uint8Array>>((resolve, reject) => {
    unzip(bytes, (fault, data) =>
      fault ? reject(new Error("The file is no ZIP file, or it is damaged. Save the jobs again.")) : resolve(data),
    );
  });
  const opened: Opened = { ids: [], faults: [] };
  const names = Object.keys(entries).filter((name) => /^[^/]+\.json$/i.test(name));
  if (names.length === 0) throw new Error("The ZIP file holds no job file. Choose one that “Save all jobs” made.");
  for (const name of names)
    try {
      const job = parseJob(new TextDecoder().decode(entries[name]));
      const files: Job["files"] = [];
      for (const { path, ...file } of job.files) {
        const own = path === undefined ? undefined : entries[path];
        if (path !== undefined && !own) throw new Error(`“${path}” is not in the ZIP file.`);
        files.push(
          own ? { ...file, sha256: (await api.keepFile(new File([own as BlobPart], file.name))).sha256 } : file,
        );
      }
      opened.ids.push((await api.create({ document: { ...job, files } })).id);
    } catch (cause) {
      opened.faults.push(`${name}: ${cause instanceof Error ? cause.message : String(cause)}`);
    }
  return opened;
}
