import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { evaluatePart, ResultCache } from "../evaluate";
import { loadNodeKernel } from "../kernel/library/node";
import type { StepUpgrade } from "../steps";
import { jobOf, messageOf } from "../testing/harness";
import { checkJob, type Job, parseJob, upgradeJob } from ".";

beforeAll(loadNodeKernel);

/** The demo's job as each release wrote it. A file is put here whenever the demo's form changes, and stays. */
const folder = path.join(process.cwd(), "src/core/testing/old-jobs");

describe("jobs of every release", () => {
  test.each(readdirSync(folder).sort())("%s opens, and every step is built as it was", (name) => {
    const job = parseJob(readFileSync(path.join(folder, name), "utf8"));
    for (const part of job.parts) {
      const { steps } = evaluatePart(job, part, {
        cache: new ResultCache(),
        file: () => new Uint8Array(readFileSync(path.join(process.cwd(), "demo/foot-pad.step"))),
      });
      expect(steps.filter(({ state }) => state !== "good").map(({ id, error }) => `${id}: ${error?.message}`)).toEqual(
        [],
      );
    }
  });

  test("as the storage gives them, unchecked, they have every field of this release", () => {
    const fieldsOf = (value: object) => Object.keys(value).sort();
    for (const name of readdirSync(folder)) {
      const stored = JSON.parse(readFileSync(path.join(folder, name), "utf8"));
      const [read, whole] = [upgradeJob(stored) as Job, checkJob(stored)];
      const optional = (fields: string[]) => fields.filter((field) => field !== "stepVersions");
      expect(optional(fieldsOf(read)), name).toEqual(optional(fieldsOf(whole)));
      for (const [p, part] of read.parts.entries()) {
        expect(["hold", "names", ...fieldsOf(part)], name).toEqual(expect.arrayContaining(fieldsOf(whole.parts[p]!)));
      }
    }
  });

  test("the newest of them is the demo's own", () => {
    const inOrder = readdirSync(folder).sort((a, b) => a.localeCompare(b, "en", { numeric: true }));
    const newest = inOrder.at(-1)!;
    const demo = readFileSync(path.join(process.cwd(), "demo/star-pier.json"), "utf8");
    expect(checkJob(JSON.parse(readFileSync(path.join(folder, newest), "utf8")))).toEqual(checkJob(JSON.parse(demo)));
  });

  test("what a step did not have when it was stored has its default", () => {
    const job = jobOf([
      { id: "a", type: "box", size: [1, 2, 3] },
      { id: "f", type: "fillet", edges: [] },
    ]);
    const stored = JSON.parse(JSON.stringify(job));
    for (const key of ["radii", "edges2", "radius2", "edges3", "radius3"]) delete stored.parts[0].steps[1][key];
    const [read, again] = [upgradeJob(stored), upgradeJob(stored)];
    expect(read).toEqual(job);
    // Lists that were filled in are each job's own.
    (read as typeof job).parts[0]!.steps[1]!.edges2 = "changed";
    ((read as typeof job).parts[0]!.steps[1]!.edges3 as unknown[]).push("changed");
    expect(again).toEqual(job);
  });
});

describe("steps that were once written in another way", () => {
  const upgrades: StepUpgrade[] = [
    { name: "width becomes size", up: ({ width, ...step }) => ({ ...step, size: [width, width, width] }) },
    { name: "sizes are doubled", up: (step) => ({ ...step, size: (step.size as number[]).map((value) => 2 * value) }) },
  ];
  const of = (type: string) => (type === "box" ? upgrades : []);
  const written = (step: Record<string, unknown>, stepVersions?: Record<string, number>) => ({
    format: "bold-seam-job",
    version: 1,
    name: "Old",
    parts: [{ id: "p", name: "P", steps: [{ id: "a", type: "box", ...step }] }],
    ...(stepVersions ? { stepVersions } : {}),
  });
  const sizeOf = (job: unknown) => (job as { parts: { steps: { size: number[] }[] }[] }).parts[0]!.steps[0]!.size;

  test("go through all that came after them, once", () => {
    const first = upgradeJob(written({ width: 3 }), of);
    expect(sizeOf(first)).toEqual([6, 6, 6]);
    expect(first).toMatchObject({ stepVersions: { box: 2 } });
    expect(upgradeJob(first, of)).toEqual(first);
    expect(sizeOf(upgradeJob(written({ size: [1, 2, 3] }, { box: 1 }), of))).toEqual([2, 4, 6]);
    expect(sizeOf(upgradeJob(written({ size: [1, 2, 3] }, { box: 2 }), of))).toEqual([1, 2, 3]);
  });

  test("are not upgraded where they were added after the rest was", () => {
    const empty = upgradeJob({ ...written({}), parts: [{ id: "p", name: "P", steps: [] as unknown[] }] }, of);
    empty.parts[0]!.steps.push({ id: "a", type: "box", size: [1, 2, 3] });
    expect(sizeOf(upgradeJob(empty, of))).toEqual([1, 2, 3]);
  });

  test("versions that are none are refused with a sentence, and upgrade nothing", () => {
    for (const odd of [{ box: -1 }, { box: 0.5 }, { box: "1" }, [], 7]) {
      const job = written({ width: 3 }, odd as never);
      expect(upgradeJob(job, of)).toMatchObject({ stepVersions: odd, parts: [{ steps: [{ width: 3 }] }] });
      expect(messageOf(() => checkJob(written({}, odd as never)))).toMatch(/^The job cannot be used/);
    }
  });

  test("of a newer release are refused, with the step's name", () => {
    expect(messageOf(() => upgradeJob(written({}, { box: 3 }), of))).toMatch(/newer release.*“Block”/);
    expect(messageOf(() => checkJob(written({}, { fillet: 1 })))).toMatch(/newer release.*“Fillet”/);
  });

  test("what is no job is left for the check to refuse", () => {
    for (const odd of [null, 3, "job", [], { parts: 7 }, { parts: [null, { steps: "no" }, { steps: [null, 3] }] }])
      expect(() => upgradeJob(odd)).not.toThrow();
  });
});
