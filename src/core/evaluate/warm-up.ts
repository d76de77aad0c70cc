import { readStep, writeStep } from "../exchange/step";
import { isBody } from "../items";
import { checkJob, emptyJob, type Step } from "../job";
import { freeShape, tessellate, viewDeflection } from "../kernel";
import { ResultCache } from "./cache";
import { evaluatePart } from "./evaluate";
import { freePieces } from "./free";

/** Rounds after which the first real work is near its lasting speed; more of them gain nothing more. Measured by the bench. */
export const WARM_ROUNDS = 6;

const seam = (id: string, values: Record<string, unknown>) => ({ id, type: "seam", ...values });

/** Every round uses other sizes, so nothing comes from a cache. What a step does not say is as in any job that leaves it out. */
export function warmUpSheet(round: number): Step[] {
  const size = 20 + round * 0.01;
  const steps = [
    { id: "a", type: "box", size: [size, size, size] },
    { id: "b", type: "cylinder", diameter: size / 2, height: size * 2, at: [1, 0, -5] },
    { id: "c", type: "sphere", diameter: size, at: [size / 3, 0, size / 2] },
    { id: "d", type: "workplane", base: "xy", offset: size / 3 },
    { id: "f", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: -4, extend: 10 },
    seam("e", { preset: "subtract", stock: ["a"], cutters: ["b"] }),
    seam("g", { preset: "split", stock: ["e"], cutters: ["d", "f", "c"] }),
    seam("h", { preset: "union", stock: ["b", "c"] }),
  ];
  const { format, version, name } = emptyJob("warm-up");
  return checkJob({ format, version, name, parts: [{ id: "p", name: "Warm-up", steps }] }).parts[0]!.steps;
}

/**
 * Small typical operations, so that the kernel's code is compiled and optimised before a person waits for it. Each turn
 * of the iterator is one of them: whoever drives it can let real work in between any two.
 */
export function* warmUp(rounds: number): Generator<void> {
  for (let round = 0; round < rounds; round++) {
    const cache = new ResultCache();
    const job = emptyJob("warm-up");
    const part = job.parts[0]!;
    const file = () => undefined;
    try {
      // What is built already comes from the round's own cache, so each turn computes one step.
      for (const step of warmUpSheet(round)) {
        part.steps.push(step);
        evaluatePart(job, part, { cache, file });
        yield;
      }
      const { bench, pieces } = evaluatePart(job, part, { cache, file, pieces: "g" });
      if (pieces) freePieces(pieces);
      yield;
      const bodies = bench.flatMap(({ item }) => (isBody(item) ? [{ name: item.id, shape: item.shape }] : []));
      for (const { shape } of bodies) tessellate(shape, viewDeflection(40));
      yield;
      // Every fourth round also writes and reads a file: a person's first act is often to bring one in.
      if (round % 4 === 0) {
        const written = new TextEncoder().encode(writeStep(bodies, "warm-up"));
        yield;
        for (const { shape } of readStep(written, "warm-up").bodies) freeShape(shape);
        yield;
      }
    } finally {
      cache.clear();
    }
  }
}
