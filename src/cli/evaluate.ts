import { mkdir, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { type BodyReport, type FitReport, fitsOf, reportBody } from "@/core/check";
import { fail, SeamError } from "@/core/errors";
import {
  askedFits,
  ENGINE_VERSION,
  evaluateJob,
  type LinkReport,
  linkReports,
  type PartResult,
  ResultCache,
  warnOfPinches,
} from "@/core/evaluate";
import { OUT_FORMATS, outItems, takes, writeItems } from "@/core/exchange";
import { hashBytes } from "@/core/hash";
import { type Body, isBody } from "@/core/items";
import { type Job, type Part, parseJob, refreshLinks } from "@/core/job";
import { allFaceFacts } from "@/core/kernel";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { version } from "../../package.json";
import { printJson, readInput } from "./output";

interface Options {
  out: string;
  tolerance: string;
  report?: string;
  /** Only these parts, by name or id. */
  part?: string[];
  /** The formats that are asked for, by their ids. */
  [format: string]: string | boolean | string[] | undefined;
}

/** What made a report: results are the same for the same version and engine. */
const PROGRAM = { name: "Bold Seam", version, engine: ENGINE_VERSION };

/**
 * Evaluates every part of job files and writes what was asked for: of several files, each into a folder of its own name, and reports
 * into the folder that is named. A file that is unusable is told, and costs the others nothing.
 * @returns the worst exit code of them all.
 */
export async function evaluateFiles(files: readonly string[], options: Options): Promise<number> {
  const tolerance = Number(options.tolerance);
  if (!(tolerance >= 0.0005 && tolerance <= 10))
    fail("tolerance", "The tolerance has to lie between 0.0005 and 10 mm.");
  if (files.length === 1) {
    const { report, code } = await evaluateFile(files[0]!, options, tolerance, options.out);
    if (!options.report) printJson(report);
    else if (await isFolder(options.report))
      await writeReport(path.join(options.report, `${ownNames(files)[0]}.json`), report);
    else await writeReport(options.report, report);
    return code;
  }
  let worst = 0;
  const reports: unknown[] = [];
  for (const [i, name] of ownNames(files).entries()) {
    const file = files[i]!;
    let report: object;
    try {
      const done = await evaluateFile(file, options, tolerance, path.join(options.out, name));
      report = { file, ...done.report };
      worst = Math.max(worst, done.code);
    } catch (cause) {
      if (!(cause instanceof SeamError)) throw cause;
      process.stderr.write(`${file}: ${cause.message}\n`);
      report = { file, program: PROGRAM, error: cause.message };
      worst = 2;
    }
    if (options.report) await writeReport(path.join(options.report, `${name}.json`), report);
    else reports.push(report);
  }
  if (!options.report) printJson({ jobs: reports });
  return worst;
}

/** Whether a path is written as a folder, or is one. */
const isFolder = async (place: string): Promise<boolean> =>
  /[\\/]$/.test(place) || (await stat(place).catch(() => null))?.isDirectory() === true;

/** What each of some files is called without its folder and its ending, told apart by a number where two are called alike. */
function ownNames(files: readonly string[]): string[] {
  const taken = new Set<string>();
  return files.map((file) => {
    const base = path.basename(file).replace(/\.[^.]*$/, "") || "job";
    let name = base;
    for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${base}-${n}`;
    taken.add(name.toLowerCase());
    return name;
  });
}

async function evaluateFile(file: string, options: Options, tolerance: number, out: string) {
  const job = parseJob(new TextDecoder().decode(await readInput(file)));
  const files = await readFiles(job, path.dirname(path.resolve(file)));
  await loadNodeKernel();
  const parts = [];
  let failed = false;
  let fits: FitReport[] = [];
  let links: LinkReport[] = [];
  const cache = new ResultCache();
  const wanted = partsOf(job, options.part);
  try {
    const shared = { cache, file: (id: string) => files.get(id) };
    if (options.refresh === true) refreshLinks(job, () => true);
    const results = evaluateJob(job, shared, wanted);
    links = linkReports(job, shared, wanted);
    fits = fitsOf(askedFits(job, cache, (id) => results.get(id) ?? null));
    failed ||= fits.some(({ holds }) => holds !== true);
    for (const part of wanted) {
      const result = results.get(part.id)!;
      failed ||= result.steps.some((step) => step.state === "failed" || step.state === "waiting");
      const bodies = result.bench.flatMap(({ item, name, lacks }) =>
        isBody(item) ? [{ ...reportBody(item.id, name, item.kind, item.shape), lacks, item }] : [],
      );
      const steps = warnOfPinches(
        result.steps,
        bodies.map((measures) => ({ ...measures, measures })),
      );
      const refused = await writeFiles(part, result, { ...options, out }, tolerance);
      failed ||= refused.length > 0;
      parts.push({
        id: part.id,
        name: part.name,
        steps: steps.map(stepLine),
        bodies: bodies.map(({ item, ...report }) => ({ ...bodyLine(report), faceList: facesOf(item) })),
        ...(refused.length > 0 ? { refused } : {}),
      });
    }
  } finally {
    cache.clear();
  }
  const told = fits.map(({ names: [one, other], holds, words }) => ({ one, other, holds, words }));
  const report = {
    program: PROGRAM,
    job: job.name,
    parts,
    ...(told.length > 0 ? { fits: told } : {}),
    ...(links.length > 0 ? { links } : {}),
  };
  return { report, code: failed ? 1 : 0 };
}

/** The parts of a job that are asked for: all of them, or those of these names or ids. @throws SeamError `part-unknown` */
function partsOf({ parts }: Job, asked: readonly string[] | undefined): readonly Part[] {
  if (!asked) return parts;
  const known = parts.map(({ name }) => `“${name}”`).join(", ");
  const found = asked.map(
    (word) =>
      parts.find(({ id, name }) => id === word || name === word) ??
      fail("part-unknown", `There is no part “${word}” in this job. It has ${known}.`),
  );
  return parts.filter((part) => found.includes(part));
}

/** The faces of a body: each with its name, what kind of surface it is, and what that has. */
function facesOf({ shape, faces }: Body) {
  return allFaceFacts(shape).map(({ axisAt, ...facts }, f) => ({
    name: faces[f]!,
    ...facts,
    ...(axisAt ? { axisAt } : {}),
  }));
}

async function writeReport(file: string, report: unknown): Promise<void> {
  await mkdir(path.dirname(path.resolve(file)), { recursive: true });
  await writeFile(file, `${JSON.stringify(report, null, 2)}\n`);
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

function stepLine({ id, type, state, error, warnings, told, lacks, ms }: PartResult["steps"][number]) {
  return {
    id,
    type,
    state,
    error: error ?? null,
    warnings,
    ...(told ? { told } : {}),
    ...(lacks ? { lacks } : {}),
    ms: Math.round(ms * 10) / 10,
  };
}

type BodyLine = Omit<BodyReport, "openEdges"> & { openEdges: number; openAt: BodyReport["openEdges"] };

function bodyLine({ openEdges, ...report }: BodyReport): BodyLine {
  return { ...report, openEdges: openEdges.length, openAt: openEdges };
}

/** Writes a part in the formats that are asked for. @returns those that do not take it, with the reason; the others are written. */
async function writeFiles(part: Part, { bench }: PartResult, options: Options, tolerance: number) {
  const bodies = outItems(part, bench);
  const refused: { format: string; message: string }[] = [];
  for (const format of OUT_FORMATS) {
    if (options[format.id] !== true || !bodies.some(({ kind }) => takes(format, kind))) continue;
    try {
      const bytes = writeItems(format.id, bodies, { title: part.name, tolerance });
      await mkdir(options.out, { recursive: true });
      await writeFile(path.join(options.out, `${part.id}.${format.extension}`), bytes);
    } catch (cause) {
      if (!(cause instanceof SeamError)) throw cause;
      refused.push({ format: format.id, message: cause.message });
    }
  }
  return refused;
}
