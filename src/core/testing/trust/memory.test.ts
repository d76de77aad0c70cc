import { beforeAll, expect, test } from "vitest";
import { evaluatePart, ResultCache } from "../../evaluate";
import { kernelHeapBytes } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { jobOf } from "../harness";
import { tighten } from "./tight";

/** How many evaluations are made: a sample here, 1,500 in the long proof. */
const COUNT = Number(process.env.PROOF_EVALUATIONS ?? 40);

beforeAll(loadNodeKernel);

/** A block with a ring cut into it and an edge rounded, of another width each time: nothing of it can be taken from before. */
const job = (i: number) =>
  jobOf([
    { id: "a", type: "box", size: [40, 30 + i * 1e-3, 20], anchor: "corner" },
    { id: "r", type: "torus", diameter: 20, section: 6, at: [20, 15, 20] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["r"] },
    { id: "f", type: "fillet", edges: [{ body: "s", print: { at: [20, 0, 20] } }], radius: 1 },
  ]);

test(`${COUNT} evaluations: nothing stays in the engine's memory`, () => {
  const evaluate = (i: number) => {
    const cache = new ResultCache();
    const { steps } = evaluatePart(job(i), job(i).parts[0]!, { cache, file: () => undefined });
    expect(steps.every(({ state }) => state === "good")).toBe(true);
    cache.clear();
  };
  // With little to spare at first: one leap of the memory, 38 MB, is what there is for all that follow.
  const loosen = tighten(0);
  for (let i = 0; i < 10; i++) evaluate(i);
  const before = kernelHeapBytes();
  for (let i = 0; i < COUNT; i++) evaluate(i);
  expect(kernelHeapBytes() - before).toBe(0);
  loosen();
});
