import { evaluatePart, ResultCache } from "../src/core/evaluate";
import { pairOf, surelyApart } from "../src/core/fit/audit";
import { type Body, isBody } from "../src/core/items";
import {
  facesOf,
  freeShape,
  nearest,
  normalNear,
  partFace,
  pointOnFace,
  type Shape,
  sweptPatches,
} from "../src/core/kernel";
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

/**
 * The room of a square block that turns about its own axis, against the bare operations that it needs: its four sides parted where they lead, what their halves
 * draw, and one union with the block.
 */
export function motion(): void {
  const BLOCK: Step = { id: "b", type: "box", size: [20, 20, 60] };
  const cache = new ResultCache(0);
  const run = (id?: string) => {
    const moves = [{ id: "m", how: "turn", turn: 90, about: "z" }];
    const job = jobOf([BLOCK, ...(id ? [{ id, type: "motion", body: ["b"], moves }] : [])]);
    return evaluatePart(job, job.parts[0]!, { cache, file: () => undefined });
  };
  const first = run();
  const block = first.bench.map(({ item }) => item).find(isBody)!.shape;
  const kept = new Set(first.results.keys());
  const ratios: number[] = [];
  for (let i = 0; i < MOTIONS; i++) {
    const made = run(`m${i}`);
    const report = made.steps.at(-1)!;
    if (report.state !== "good") throw new Error(report.error?.message);
    ratios.push(report.ms / time(() => bareTurn(block)));
    cache.trim(kept);
  }
  cache.clear();
  show("room of a block that turns to the bare operations it needs", median(ratios.slice(MOTIONS / 2)), "stated");
}
const MOTIONS = 60;

/** A quarter of a turn about Z of a block that stands about it, its bare operations alone. */
function bareTurn(block: Shape): void {
  const halves = facesOf(block).flatMap((face) => {
    const at = pointOnFace(face);
    const normal = normalNear(face, at);
    if (Math.abs(normal[2]) > 0.5) return [];
    // A side leads on the half of it that goes the way it looks.
    const parts = partFace(face, [{ at: [0, 0, 0], normal: [-normal[1], normal[0], 0] }], 200);
    return parts.filter((part) => {
      const [x, y] = pointOnFace(part);
      const leads = -y * normal[0] + x * normal[1] > 0;
      if (!leads) freeShape(part);
      return leads;
    });
  });
  const patches = sweptPatches(halves, { at: [0, 0, 0], axis: [0, 0, 1], angle: Math.PI / 2 });
  bare(
    "union",
    [block],
    patches.map(({ shape }) => shape),
  );
  for (const shape of [...halves, ...patches.map((patch) => patch.shape)]) freeShape(shape);
}
