import { counted } from "@/core/words";
import { databaseUrl } from "../db/client";
import { asStorageProblem } from "../db/storage";
import { backUp, type Contents, restore } from "./backup";

const held = ({ jobs, changes, files }: Contents) =>
  `${counted(jobs, "job")} with ${counted(changes, "edit")}, and ${counted(files, "imported file")}`;

/** `npm run backup -- FILE` and `npm run restore -- FILE`, while the server runs or not. 0: done; 2: one sentence. */
async function run([what, file, ...more]: string[]): Promise<number> {
  if ((what !== "backup" && what !== "restore") || !file || more.length > 0) {
    process.stderr.write("Give one file: npm run backup -- FILE, or npm run restore -- FILE.\n");
    return 2;
  }
  try {
    if (what === "backup") {
      process.stdout.write(`“${file}” holds ${held(await backUp(databaseUrl(), file))}.\n`);
    } else {
      const { before, ...contents } = await restore(databaseUrl(), file);
      process.stdout.write(`Back are ${held(contents)}.\n`);
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
