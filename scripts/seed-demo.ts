import { readFile } from "node:fs/promises";
import path from "node:path";
import { parseJob } from "../src/core/job";
import { database } from "../src/server/db/client";
import { keepFile } from "../src/server/files/service";
import { createJob, listSummaries, readJob } from "../src/server/jobs/service";
import { seedViews } from "./seed-views";

/** Puts the demo job into the database, once: whoever changed it keeps the changes. */
const folder = path.join(process.cwd(), "demo");
const db = await database();
const job = parseJob(await readFile(path.join(folder, "star-pier.json"), "utf8"));
if ((await listSummaries(db)).some((summary) => summary.name === job.name))
  console.log(`The job ${job.name} is there already.`);
else {
  for (const file of job.files) {
    const { sha256 } = await keepFile(
      db,
      file.name,
      new Uint8Array(await readFile(path.join(folder, file.path ?? file.name))),
    );
    file.sha256 = sha256;
    delete file.path;
  }
  const { id } = await createJob(db, { document: job });
  const { document } = await readJob(db, id);
  await seedViews(db, document);
  console.log(`The job ${job.name} is ready (${id}).`);
}
process.exit(0);
