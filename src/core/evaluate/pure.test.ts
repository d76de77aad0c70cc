import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, expect, test } from "vitest";
import { isBody } from "../items";
import { type Job, parseJob } from "../job";
import { loadNodeKernel } from "../kernel/library/node";
import { jobOf } from "../testing/harness";
import { partsByChance } from "../testing/jobs-by-chance";
import { ResultCache } from "./cache";
import { evaluateJob, evaluatePart } from "./evaluate";
import type { PartResult } from "./types";

beforeAll(loadNodeKernel);

/** How many jobs by chance: a sample here, 30 in the long proof. */
const COUNT = Number(process.env.PROOF_JOBS ?? 5);

const demo = path.join(process.cwd(), "demo");
const file = () => new Uint8Array(readFileSync(path.join(demo, "foot-pad.step")));

/** All of a result by which anything is found or told. */
const known = ({ steps, bench }: PartResult) => ({
  steps: steps.map(({ ms: _ms, ...step }) => step),
  bench: bench.map(({ item, name, was, lacks }) => ({
    id: item.id,
    name,
    was,
    lacks,
    ...(isBody(item) ? { faces: item.faces } : {}),
  })),
});

test.each([
  ["the demo", () => parseJob(readFileSync(path.join(demo, "star-pier.json"), "utf8"))],
  [`${COUNT} jobs by chance`, () => jobOf([], { parts: partsByChance(COUNT) })],
])("%s, evaluated twice: the same ids, names, order, keys and words, whatever was evaluated before", (_what, job) => {
  const whole = evaluateJob(job(), { cache: new ResultCache(), file });
  const once = new Map([...whole].map(([id, result]) => [id, known(result)] as const));
  // Each alone, the last first, over a cache that the others fill.
  const cache = new ResultCache();
  const again: Job = job();
  for (const part of [...again.parts].reverse())
    expect(known(evaluatePart(again, part, { cache, file }))).toEqual(once.get(part.id));
});
