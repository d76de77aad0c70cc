import { readStep, writeStep } from "../exchange/step";
import { emptyJob, type Step } from "../job";
import { freeShape, tessellate, viewDeflection } from "../kernel";
import { isBody } from "../naming";
import { ResultCache } from "./cache";
import { evaluatePart, freePieces } from "./evaluate";

/** Rounds after which the first real work is near its lasting speed; measured by the bench. */
export const WARM_ROUNDS = 12;

/**
 * Runs small typical operations, so that the kernel's code is compiled and optimised before a person waits for it.
 * Every round uses other sizes, so nothing comes from a cache.
 * @param pause called between rounds; lets a message through.
 */
export async function warmUp(rounds: number, pause: () => Promise<boolean>): Promise<void> {
  for (let round = 0; round < rounds; round++) {
    const cache = new ResultCache();
    const job = emptyJob("warm-up");
    const size = 20 + round * 0.01;
    const steps = [
      { id: "a", type: "box", place: "sized", size: [size, size, size], at: [0, 0, 0], anchor: "base" },
      { id: "b", type: "cylinder", diameter: size / 2, height: size * 2, at: [1, 0, -5], axis: "z" },
      { id: "c", type: "sphere", diameter: size, at: [size / 3, 0, size / 2] },
      { id: "d", type: "workplane", base: "xy", offset: size / 3, flip: false },
      { id: "f", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: -4, extend: 10 },
      {
        id: "e",
        type: "seam",
        preset: "subtract",
        stock: ["a"],
        cutters: ["b"],
        keepSide: {},
        fates: [],
        cutterFaces: [],
        keepCutters: true,
        keepStock: false,
      },
      {
        id: "g",
        type: "seam",
        preset: "split",
        stock: ["e"],
        cutters: ["d", "f", "c"],
        keepSide: {},
        fates: [],
        cutterFaces: [],
        keepCutters: true,
        keepStock: false,
      },
      {
        id: "h",
        type: "seam",
        preset: "union",
        stock: ["b", "c"],
        cutters: [],
        keepSide: {},
        fates: [],
        cutterFaces: [],
        keepCutters: true,
        keepStock: false,
      },
    ].map((step) => ({ suppressed: false, ...step })) as Step[];
    job.parts[0]!.steps = steps;
    const { bench, pieces } = evaluatePart(job, job.parts[0]!, { cache, file: () => undefined, pieces: "g" });
    const bodies = bench.flatMap(({ item }) => (isBody(item) ? [{ name: item.id, shape: item.shape }] : []));
    for (const { shape } of bodies) tessellate(shape, viewDeflection(40));
    // Every fourth round also writes and reads a file: a person's first act is often to bring one in.
    if (round % 4 === 0) {
      const file = new TextEncoder().encode(writeStep(bodies, "warm-up"));
      for (const { shape } of readStep(file, "warm-up").bodies) freeShape(shape);
    }
    if (pieces) freePieces(pieces);
    cache.clear();
    if (!(await pause())) return;
  }
}
