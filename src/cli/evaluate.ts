import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { evaluatePart, type PartResult, ResultCache, warnOfPinches } from "@/core/build";
import { type BodyReport, reportBody } from "@/core/check";
import { fail, SeamError } from "@/core/errors";
import { BODY_FORMATS, outBodies, takes, writeBodies } from "@/core/exchange";
import { hashBytes } from "@/core/hash";
import { type Job, type Part, parseJob } from "@/core/job";
import { loadNodeKernel } from "@/core/kernel/node";
import { isBody } from "@/core/naming";
import { printJson, readInput } from "./output";

interface Options {
  out: string;
  tolerance: string;
  report?: string;
  /** The formats that are asked for, by their ids. */
  [format: string]: string | boolean | undefined;
}

/** Evaluates every part of a job file and writes what was asked for. Returns the exit code. */
export async function evaluateJob(file: string, options: Options): Promise<number> {
  const job = parseJob(new TextDecoder().decode(await readInput(file)));
  const tolerance = Number(options.tolerance);
  if (!(tolerance >= 0.0005 && tolerance <= 10))
    fail("tolerance", "The tolerance has to lie between 0.0005 and 10 mm.");
  const files = await readFiles(job, path.dirname(path.resolve(file)));
  await loadNodeKernel();
  const parts = [];
  let failed = false;
  for (const part of job.parts) {
    const cache = new ResultCache();
    const result = evaluatePart(job, part, { cache, file: (id) => files.get(id) });
    failed ||= result.steps.some((step) => step.state === "failed" || step.state === "waiting");
    const reports = result.bench.flatMap(({ item, name, lacks }) =>
      isBody(item) ? [{ ...reportBody(item.id, name, item.kind, item.shape), lacks }] : [],
    );
    const steps = warnOfPinches(
      result.steps,
      reports.map((measures) => ({ ...measures, measures })),
    );
    const refused = await writeFiles(part, result, options, tolerance);
    failed ||= refused.length > 0;
    parts.push({
      id: part.id,
      name: part.name,
      steps: steps.map(stepLine),
      bodies: reports.map(bodyLine),
      ...(refused.length > 0 ? { refused } : {}),
    });
    cache.clear();
  }
  const report = { job: job.name, parts };
  if (options.report) {
    await mkdir(path.dirname(path.resolve(options.report)), { recursive: true });
    await writeFile(options.report, `${JSON.stringify(report, null, 2)}\n`);
  } else printJson(report);
  return failed ? 1 : 0;
}

async function readFiles(job: Job, base: string): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const file of job.files) {
    if (file.text !== undefined) files.set(file.id, new TextEncoder().encode(file.text));
    else files.set(file.id, await readInput(path.resolve(base, file.path ?? file.name)));
    // The key of an import is its contents, so the hash is taken from what was read.
    file.sha256 = hashBytes(files.get(file.id)!);
  }
  return files;
}

function stepLine({ id, type, state, error, warnings, lacks, ms }: PartResult["steps"][number]) {
  return { id, type, state, error: error ?? null, warnings, ...(lacks ? { lacks } : {}), ms: Math.round(ms * 10) / 10 };
}

type BodyLine = Omit<BodyReport, "openEdges"> & { openEdges: number; openAt: BodyReport["openEdges"] };

function bodyLine({ openEdges, ...report }: BodyReport): BodyLine {
  return { ...report, openEdges: openEdges.length, openAt: openEdges };
}

/** Writes a part in the formats that are asked for. @returns those that do not take it, with the reason; the others are written. */
async function writeFiles(part: Part, { bench }: PartResult, options: Options, tolerance: number) {
  const bodies = outBodies(part, bench);
  const refused: { format: string; message: string }[] = [];
  for (const format of BODY_FORMATS) {
    if (options[format.id] !== true || !bodies.some(({ kind }) => takes(format, kind))) continue;
    try {
      const bytes = writeBodies(format.id, bodies, { title: part.name, tolerance });
      await mkdir(options.out, { recursive: true });
      await writeFile(path.join(options.out, `${part.id}.${format.extension}`), bytes);
    } catch (cause) {
      if (!(cause instanceof SeamError)) throw cause;
      refused.push({ format: format.id, message: cause.message });
    }
  }
  return refused;
}
