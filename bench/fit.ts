import { evaluatePart, ResultCache } from "../src/core/evaluate";
import { pairOf, surelyApart } from "../src/core/fit/audit";
import { type Body, isBody } from "../src/core/items";
import { nearest } from "../src/core/kernel";
import { bare } from "../src/core/kernel/divide/bare";
import { jobOf } from "../src/core/testing/harness";
import { median, show, time } from "./ratios";

type Step = Record<string, unknown>;
const STOCK: Step = { id: "a", type: "box", size: [60, 50, 40] };
/** Tools, and the same grown by a quarter of a millimetre. */
const TOOLS: Record<string, [tool: Step, grown: Step]> = {
  ball: [
    { id: "b", type: "sphere", diameter: 34, at: [8, 5, 32] },
    { id: "g", type: "sphere", diameter: 34.5, at: [8, 5, 32] },
  ],
  block: [
    { id: "b", type: "box", size: [20, 20, 20], at: [8, 5, 32] },
    { id: "g", type: "box", size: [20.5, 20.5, 20.5], at: [8, 5, 31.75] },
  ],
  bar: [
    { id: "b", type: "cylinder", diameter: 20, height: 60, at: [8, 5, -10] },
    { id: "g", type: "cylinder", diameter: 20.5, height: 60.5, at: [8, 5, -10.25] },
  ],
};
const ROUNDS = 400;

/**
 * A cut with a gap against the bare operation with a tool that is grown already, as while a person changes what is cut: the tool is grown once. How near
 * the two come is measured beside that each time, which is stated by itself: the bare operation says nothing of it.
 */
export function cutsWithGap(): void {
  for (const [name, [tool, grown]] of Object.entries(TOOLS)) {
    const cache = new ResultCache(0);
    const run = (step?: Step) => {
      const job = jobOf([STOCK, tool, grown, ...(step ? [step] : [])]);
      return evaluatePart(job, job.parts[0]!, { cache, file: () => undefined });
    };
    const bodyOf = (result: ReturnType<typeof run>, step: string) =>
      result.bench
        .map(({ item }) => item)
        .find((item): item is Body => isBody(item) && item.id.startsWith(`${step}:`))!;
    const first = run();
    const [a, b, g] = ["a", "b", "g"].map((id) => bodyOf(first, id).shape);
    const whole: number[] = [];
    const rest: number[] = [];
    let kept = new Set<string>();
    for (let i = 0; i < ROUNDS; i++) {
      const id = `s${i}`;
      const made = run({ id, type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], gap: 0.25 });
      const report = made.steps.at(-1)!;
      if (report.state !== "good") throw new Error(`${name}: ${report.error?.message}`);
      const measuring = time(() => nearest(b!, bodyOf(made, id).shape));
      const theirs = time(() => bare("subtract", [a!], [g!]));
      whole.push(report.ms / theirs);
      rest.push((report.ms - measuring) / theirs);
      if (i === 0) kept = new Set([...made.results.keys()].filter((key) => key !== report.key));
      cache.trim(kept);
    }
    const late = (ratios: number[]) => median(ratios.slice(ROUNDS / 2));
    show(`cut with a gap to the bare cut with a grown ${name}`, late(rest), "≤ 1.3");
    show("  and with the least gap measured", late(whole), "stated");
    cache.clear();
  }
}

/** How long an audit of thirty bodies takes, of which a hundred pairs lie within 5 mm, to the two seconds that it may; and once more with nothing changed. */
export function audit(): void {
  const kinds: Step[] = [
    { type: "box", size: [10, 10, 10] },
    { type: "cylinder", diameter: 10, height: 10 },
    { type: "sphere", diameter: 10 },
  ];
  const first: number[] = [];
  const again: number[] = [];
  for (let round = 0; round < 4; round++) {
    const steps = Array.from({ length: 30 }, (_, i) => {
      const place = [(i % 6) * 10.1 + round / 100, Math.floor(i / 6) * 9.9, i % 3 === 2 ? 5 : 0];
      return { id: `x${i}`, ...kinds[i % 3], at: place };
    });
    const job = jobOf(steps);
    const cache = new ResultCache();
    const { bench } = evaluatePart(job, job.parts[0]!, { cache, file: () => undefined });
    const bodies = bench.map(({ item }) => item).filter(isBody);
    const all = () =>
      time(() => {
        for (const [i, one] of bodies.entries())
          for (const other of bodies.slice(i + 1)) if (!surelyApart(one, other, 5)) pairOf(one, other);
      });
    first.push(all() / 2000);
    again.push(all() / 2000);
    cache.clear();
  }
  show("audit of 30 bodies, warm, to 2 s", median(first.slice(1)), "≤ 1");
  show("  and again with nothing changed", median(again), "≤ 0.01");
}
