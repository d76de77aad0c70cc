import { run } from "./main";

// Whoever reads what is printed may have had enough, as `head` has.
process.stdout.on("error", (cause: NodeJS.ErrnoException) => {
  if (cause.code !== "EPIPE") throw cause;
  process.exit(process.exitCode ?? 0);
});
process.exitCode = await run(process.argv.slice(2));
