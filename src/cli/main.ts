import { Command, CommanderError } from "commander";
import { SeamError } from "@/core/errors";
import { OUT_FORMATS } from "@/core/exchange";
import { jobJsonSchema } from "@/core/job";
import { KernelFault } from "@/core/kernel";
import { evaluateFiles } from "./evaluate";
import { inspect } from "./inspect";
import { printJson } from "./output";
import { stepsPage } from "./steps-page";

/** 0: all steps good; 1: a step failed, or a format does not take a body; 2: the input is unusable. */
export async function run(argv: readonly string[]): Promise<number> {
  let code = 0;
  const program = new Command("job").description("Inspect STEP files and evaluate job files.").exitOverride();
  program
    .command("inspect")
    .description("print the bodies of a STEP file as JSON")
    .argument("<file>", "a STEP file")
    .action(async (file: string) => {
      printJson(await inspect(file));
    });
  const evaluate = program
    .command("evaluate")
    .description("evaluate job files, part by part")
    .argument("<jobs...>", "job files (JSON)")
    .option("--out <dir>", "folder for the files written; of several jobs each has one of its own in it", ".")
    .option("--tolerance <mm>", "largest deviation of triangles from the exact body, mm", "0.05")
    .option("--part <name...>", "only these parts, by name or id, with what they bring in of others")
    .option("--refresh", "take what parts bring in as it is now, not as it was taken last")
    .option("--report <path>", "write the report here instead of printing it: a file, or of several jobs a folder")
    .action(async (files: string[], options) => {
      code = await evaluateFiles(files, options);
    });
  for (const { id, label } of OUT_FORMATS) evaluate.option(`--${id}`, `write each part as ${label}`);
  program
    .command("schema")
    .description("print the JSON Schema of the job file")
    .action(() => printJson(jobJsonSchema()));
  program
    .command("steps")
    .description("print the kinds of steps and their values as a page in Markdown")
    .action(() => {
      process.stdout.write(stepsPage());
    });
  try {
    await program.parseAsync(argv, { from: "user" });
    return code;
  } catch (cause) {
    if (cause instanceof CommanderError) return cause.exitCode === 0 ? 0 : 2;
    if (cause instanceof SeamError) {
      process.stderr.write(`${cause.message}\n`);
      return 2;
    }
    // Whoever calls this wants a sentence and a code, whatever went wrong inside.
    const what = cause instanceof KernelFault ? "the geometry could not be computed" : "the program failed";
    const why = cause instanceof Error ? cause.message.split("\n")[0] : String(cause);
    process.stderr.write(
      `This cannot be done: ${what} (${why}). Check the input; if it is sound, this is a fault of ours.\n`,
    );
    return 2;
  }
}
