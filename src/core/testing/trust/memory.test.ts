import { beforeAll, expect, test } from "vitest";
import { evaluatePart, ResultCache } from "../../build";
import { kernelHeapBytes } from "../../kernel";
import { loadNodeKernel } from "../../kernel/node";
import { jobOf } from "../harness";

/** How many evaluations are made: a sample here, 1,500 in the long proof. */
const COUNT = Number(process.env.PROOF_EVALUATIONS ?? 60);

beforeAll(loadNodeKernel);

/** A block with a ring cut into it and an edge rounded, of another width each time: nothing of it can be taken from before. */
const job = (i: number) =>
  jobOf([
    { id: "a", type: "box", size: [40, 30 + i * 1e-3, 20], anchor: "corner" },
    { id: "r", type: "torus", diameter: 20, section: 6, at: [20, 15, 20] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["r"] },
    { id: "f", type: "fillet", edges: [{ body: "s", print: { at: [20, 0, 20] } }], radius: 1 },
  ]);

/**
 * Bytes an evaluation: what the library's own rounding of edges leaves behind in itself, and nothing else. With the library alone, on a
 * block, 37 kB of each rounding and of each chamfer stay; more on larger bodies. Without the rounding 3,000 cuts leave nothing.
 * The engine is replaced by a fresh one when it has grown (`HostOptions.heapLimit`).
 */
const LEFT = 110 * 1024;
/** The library's memory grows by leaps: one of them says nothing. */
const LEAP = 40 * 1024 * 1024;

test(`${COUNT} evaluations: what stays in the engine's memory is the library's own`, () => {
  let before = 0;
  for (let i = 0; i < COUNT; i++) {
    const cache = new ResultCache();
    const { steps } = evaluatePart(job(i), job(i).parts[0]!, { cache, file: () => undefined });
    expect(steps.every(({ state }) => state === "good")).toBe(true);
    cache.clear();
    if (i === 40) before = kernelHeapBytes();
  }
  const grown = kernelHeapBytes() - before;
  if (process.env.PROOF_OUT) console.log(`grown by ${Math.round(grown / 1024 / 1024)} MB in ${COUNT - 41} evaluations`);
  expect(grown).toBeLessThan(LEAP + LEFT * (COUNT - 41));
});
