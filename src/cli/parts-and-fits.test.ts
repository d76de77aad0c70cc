import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, expect, test, vi } from "vitest";
import { checkJob, makeChange } from "@/core/job";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { run } from "./main";

const folder = mkdtempSync(path.join(tmpdir(), "bold-seam-parts-"));
beforeAll(loadNodeKernel);
afterAll(() => rmSync(folder, { recursive: true, force: true }));
afterEach(() => vi.restoreAllMocks());

async function evaluate(document: object, ...more: string[]) {
  const file = path.join(folder, "job.json");
  writeFileSync(file, JSON.stringify({ format: "bold-seam-job", version: 1, name: "Fit", ...document }));
  const written = { out: "", err: "" };
  vi.spyOn(process.stdout, "write").mockImplementation((text) => {
    written.out += text;
    return true;
  });
  vi.spyOn(process.stderr, "write").mockImplementation((text) => {
    written.err += text;
    return true;
  });
  const code = await run(["evaluate", file, ...more]);
  vi.restoreAllMocks();
  return { code, err: written.err, report: written.out ? JSON.parse(written.out) : null };
}

const parts = [
  { id: "one", name: "Lower half", steps: [{ id: "a", type: "box", name: "Base", size: [40, 30, 20] }] },
  {
    id: "two",
    name: "Upper half",
    steps: [
      { id: "b", type: "bring-in", part: "one", items: ["a:block"] },
      { id: "c", type: "box", name: "Lid", size: [40, 30, 5], at: [0, 0, 20.2] },
    ],
  },
  { id: "three", name: "Knob", steps: [{ id: "d", type: "sphere", diameter: -5 }] },
];
const fit = (least: number, one = "a:block") => ({
  one: { part: "one", body: one },
  other: { part: "two", body: "c:block" },
  want: "gap",
  least,
});

test("only the parts that are asked for, by name or id, with what they bring in of others", async () => {
  const sound = parts.slice(0, 2);
  const both = await evaluate({ parts: sound }, "--part", "Upper half", "one");
  expect(both.report.parts.map(({ id }: { id: string }) => id)).toEqual(["one", "two"]);
  const { report, code } = await evaluate({ parts: sound }, "--part", "two");
  expect(code).toBe(0);
  expect(report.parts).toHaveLength(1);
  expect(report.parts[0].bodies).toHaveLength(2);
  const unknown = await evaluate({ parts: sound }, "--part", "Base");
  expect(unknown.code).toBe(2);
  expect(unknown.err).toContain("There is no part “Base” in this job. It has “Lower half”, “Upper half”.");
});

test("wanted fits are held against the bodies, of different parts, too; one that does not hold counts as a failure", async () => {
  const sound = parts.slice(0, 2);
  const good = await evaluate({ parts: sound, fits: [fit(0.2)] });
  expect(good.code).toBe(0);
  expect(good.report.fits).toEqual([{ one: "Base", other: "Lid", holds: true, words: "at least 0.2 mm" }]);
  const bad = await evaluate({ parts: sound, fits: [fit(0.3)] });
  expect(bad.code).toBe(1);
  expect(bad.report.fits[0]).toMatchObject({ holds: false, words: "at least 0.3 mm wanted: 0.2 mm apart" });
  const gone = await evaluate({ parts: sound, fits: [fit(0.2, "x:block")] });
  expect(gone.code).toBe(1);
  expect(gone.report.fits[0]).toMatchObject({ holds: null });
  // Of a part that is not built nothing can be said, and nothing is.
  expect((await evaluate({ parts: sound, fits: [fit(0.3)] }, "--part", "two")).report.fits).toBeUndefined();
});

test("what is brought in is told as it stands to what it is of; it stays as it was taken, but with --refresh", async () => {
  const job = checkJob({
    format: "bold-seam-job",
    version: 1,
    name: "Fit",
    follow: false,
    parts: parts.slice(0, 2),
  });
  const { job: behind } = makeChange(job, "Wider", (draft) => {
    (draft.parts[0]!.steps[0]!.size as number[])[0] = 50;
  })!;
  const width = ({ report }: Awaited<ReturnType<typeof evaluate>>) =>
    report.parts.at(-1).bodies[0].box.max[0] - report.parts.at(-1).bodies[0].box.min[0];
  const stale = await evaluate(behind);
  expect(stale.code).toBe(0);
  expect(stale.report.links).toEqual([
    {
      part: "two",
      step: "b",
      from: "one",
      fromName: "Lower half",
      state: "stale",
      words: "“Lower half” has changed since it was taken.",
    },
  ]);
  expect(width(stale)).toBeCloseTo(40, 6);
  const fresh = await evaluate(behind, "--refresh", "--part", "two");
  expect(fresh.report.links).toMatchObject([{ state: "current" }]);
  expect(width(fresh)).toBeCloseTo(50, 6);
});

test("bodies are held against each other where their parts stand, copies too", async () => {
  const standing = parts.slice(0, 2).map((part) => ({ ...part, places: [] as object[] }));
  // 10 higher, turned by a quarter: what was brought in is none of its bodies that the fit is about.
  standing[1]!.places.push({ id: "up", by: [0, 0, 10], turn: 90 }, { id: "far", by: [0, 0, 100] });
  const at = async (where?: string) => {
    const end = { part: "two", body: "c:block", ...(where ? { at: where } : {}) };
    const { report } = await evaluate({ parts: standing, fits: [{ ...fit(0.2), other: end, least: 10.3 }] });
    return report.fits[0];
  };
  expect(await at()).toMatchObject({ holds: false, words: "at least 10.3 mm wanted: 10.2 mm apart" });
  expect(await at("far")).toMatchObject({ holds: true });
  expect(await at("gone")).toMatchObject({
    holds: null,
    words: "“Upper half” has no place “gone” any more. Choose one of its places.",
  });
});
