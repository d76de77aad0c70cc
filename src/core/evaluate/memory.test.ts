import { beforeAll, expect, test } from "vitest";
import { measure } from "../check";
import { isBody } from "../items";
import { kernelHeapBytes, tessellate, viewDeflection } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { jobOf } from "../testing/harness";
import { WHOLE } from "../testing/sample";
import { evaluatePart, freePieces, ResultCache } from ".";

beforeAll(loadNodeKernel);

const COUNT = WHOLE ? 120 : 70;

test(`${COUNT} evaluations with a changed value end within 40 MB of the heap after the first 20`, () => {
  const cache = new ResultCache(8 * 1024 * 1024);
  const heap: number[] = [];
  for (let i = 0; i < COUNT; i++) {
    const job = jobOf([
      { id: "a", type: "box", size: [60, 50, 40 + i * 0.05] },
      { id: "b", type: "cylinder", diameter: 20 + i * 0.01, height: 120, at: [0, 0, -10] },
      { id: "f", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: -15, extend: 20 },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
      { id: "t", type: "seam", preset: "split", stock: ["s"], cutters: ["f"] },
      { id: "u", type: "seam", preset: "union", stock: ["t", "b"] },
    ]);
    const result = evaluatePart(job, job.parts[0]!, { cache, file: () => undefined, pieces: "t" });
    expect(result.steps.every((step) => step.state === "good")).toBe(true);
    for (const { item } of result.bench)
      if (isBody(item)) {
        tessellate(item.shape, viewDeflection(100));
        measure(item.shape, item.kind);
      }
    freePieces(result.pieces ?? []);
    cache.trim(new Set());
    heap.push(kernelHeapBytes());
  }
  expect((heap.at(-1)! - heap[19]!) / 1024 / 1024).toBeLessThanOrEqual(40);
});
