import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { jobOf } from "../testing/harness";
import { ResultCache } from "./cache";
import { evaluateJob } from "./evaluate";

beforeAll(loadNodeKernel);

const cut = (id: string, stock: string, cutter: string) => ({
  id,
  type: "seam",
  preset: "subtract",
  stock: [stock],
  cutters: [cutter],
  gap: 0.3,
});
const block = (id: string, size: number[], at = [0, 0, 0]) => ({ id, type: "box", size, at });

const job = (length: number) =>
  jobOf([], {
    parts: [
      {
        id: "one",
        name: "One",
        steps: [block("t", [10, 10, 10]), block("a", [length, 30, 6]), cut("s", "a", "t")],
      },
      {
        id: "two",
        name: "Two",
        steps: [
          { id: "b", type: "bring-in", part: "one", items: ["t:block"] },
          block("c", [50, 40, 8]),
          cut("u", "c", "b"),
        ],
      },
    ],
  });

test("a tool that is brought into another part is grown there under its own names, and both cuts have the gap", () => {
  const cache = new ResultCache();
  const results = evaluateJob(job(40), { cache, file: () => undefined });
  for (const [part, step] of [
    ["one", "s"],
    ["two", "u"],
  ] as const) {
    const { bench, steps } = results.get(part)!;
    expect(steps.map(({ error }) => error?.message)).toEqual([undefined, undefined, undefined]);
    const made = bench.map(({ item }) => item).find(({ id }) => id.startsWith(`${step}:`))! as { faces: string[] };
    const own = made.faces.filter((name) => name.includes("side:x+") && !/^[ac]:/.test(name));
    expect(own.every((name) => name.startsWith(part === "one" ? "t:" : "b:"))).toBe(true);
    expect(own).toHaveLength(1);
  }
  cache.clear();
});

test("made once for a tool that stays as it is; let go of when there is no room for it", () => {
  const cache = new ResultCache(0);
  const build = (length: number) => evaluateJob(job(length), { cache, file: () => undefined });
  build(40);
  const before = cache.size;
  const results = build(44);
  // What is cut is new in part one, with its block; the grown tools are there already.
  expect(cache.size - before).toBe(2);
  cache.trim(new Set([...results.values()].flatMap((result) => [...result.results.keys()])));
  const grown = [...results.values()]
    .flatMap((result) => [...result.results.keys()])
    .filter((key) => key.startsWith("of "));
  // Part two is as it was: nobody asks for what its cut was made with.
  expect(new Set(grown).size).toBe(1);
  for (const key of new Set(grown)) expect(cache.get(key)).toBeDefined();
  cache.trim(new Set());
  expect(cache.size).toBe(0);
});
