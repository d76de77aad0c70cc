import { databaseUrl } from "../db/client";
import { asStorageProblem } from "../db/storage";
import { backUp, restore } from "./backup";

/** `npm run backup -- FILE` and `npm run restore -- FILE`, while the server runs or not. 0: done; 2: one sentence. */
async function run([what, file, ...more]: string[]): Promise<number> {
  if ((what !== "backup" && what !== "restore") || !file || more.length > 0) {
    process.stderr.write("Give one file: npm run backup -- FILE, or npm run restore -- FILE.\n");
    return 2;
  }
  try {
    if (what === "backup") {
      const { jobs, changes, files } = await backUp(databaseUrl(), file);
      process.stdout.write(`“${file}” holds ${jobs} jobs with ${changes} edits, and ${files} imported files.\n`);
    } else {
      const { jobs, changes, files, before } = await restore(databaseUrl(), file);
      process.stdout.write(`${jobs} jobs with ${changes} edits, and ${files} imported files are back.\n`);
      if (before) process.stdout.write(`What was there before is kept in “${before}”.\n`);
    }
    return 0;
  } catch (cause) {
    const message = asStorageProblem(cause)?.message ?? (cause instanceof Error ? cause.message.split("\n")[0] : cause);
    process.stderr.write(`${message}\n`);
    return 2;
  }
}

process.exitCode = await run(process.argv.slice(2));
