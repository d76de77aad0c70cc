import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, expect, test, vi } from "vitest";
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
