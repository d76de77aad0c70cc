import { spawnSync } from "node:child_process";
import { evaluatePart, ResultCache, WARM_ROUNDS, warmUp } from "../src/core/evaluate";
import { isBody } from "../src/core/items";
import { freeShape, makePlaneFace, type Shape } from "../src/core/kernel";
import { type BareOperation, bare } from "../src/core/kernel/divide/bare";
import { loadNodeKernel } from "../src/core/kernel/library/node";
import { Drag, solveSketch } from "../src/core/sketch";
import { jobOf } from "../src/core/testing/harness";
import { SketchMaker } from "../src/core/testing/sketches";
import { pieces } from "./divide";
import { editToPicture } from "./edit";
import { audit, cutsWithGap, motion } from "./fit";
import { edits } from "./log";
import { median, show, time } from "./ratios";

type Step = Record<string, unknown>;
const SCENES: Record<string, { stock: Step[]; cutters: Step[] }> = {
  "crossing bars": {
    stock: [{ id: "a", type: "cylinder", diameter: 40, height: 120, at: [-60, 0, 0], axis: "x" }],
    cutters: [{ id: "b", type: "cylinder", diameter: 30, height: 100, at: [0, 0, -50] }],
  },
  "block and ball": {
    stock: [{ id: "a", type: "box", size: [60, 50, 40] }],
    cutters: [{ id: "b", type: "sphere", diameter: 34, at: [8, 5, 32] }],
  },
};

function evaluate(steps: Step[], cache = new ResultCache()) {
  const job = jobOf(steps);
  return evaluatePart(job, job.parts[0]!, { cache, file: () => undefined });
}

/** How long it takes to build steps from nothing, ms. */
function timed(steps: Step[]): number {
  const job = jobOf(steps);
  return time(() => evaluatePart(job, job.parts[0]!, { cache: new ResultCache(), file: () => undefined }));
}

/** Rounds of each preset before it is measured, at most. */
const WARM = 1200;

/** Each preset against the bare call of the library for the same geometry, both warm, turn by turn. */
function presets(rounds: number): void {
  const owned: Shape[] = [];
  const cases = Object.entries(SCENES).flatMap(([name, scene]) => presetsOn(name, scene, owned));
  // Warm is when the machine code of both has settled, of all presets, since they share it: after a hundred rounds of the
  // quickest a tenth of what is ours is not yet optimised, after a thousand a twentieth. It is counted in rounds, since a slow
  // machine gets through fewer of them in a time; of a slow preset fewer do, since nearly all of it is the library's.
  for (let turn = 0; turn < 2; turn++)
    for (const { ratio } of cases) {
      const from = performance.now();
      for (let i = 0; i < WARM / 2 && performance.now() - from < 8000; i++) ratio();
    }
  for (const { what, ratio } of cases)
    show(`${what}: seam step to bare kernel call, warm`, median(Array.from({ length: rounds }, ratio)), "≤ 1.3");
  for (const shape of owned) freeShape(shape);
}

/** What each preset takes on two bodies, as a ratio. @param owned takes up what is to be freed in the end. */
function presetsOn(name: string, { stock, cutters }: { stock: Step[]; cutters: Step[] }, owned: Shape[]) {
  const ready = new ResultCache(0);
  const across = { id: "p", type: "workplane", base: "yz", offset: 3 };
  const { bench, steps: made } = evaluate([...stock, ...cutters, across], ready);
  const kept = new Set(made.map(({ key }) => key!));
  const shapes = new Map(bench.flatMap(({ item }) => (isBody(item) ? [[item.id, item.shape] as const] : [])));
  const of = (steps: Step[]): Shape[] =>
    [...shapes].filter(([id]) => steps.some((step) => id.startsWith(`${step.id}:`))).map(([, shape]) => shape);
  const plane = makePlaneFace([3, 0, 0], [1, 0, 0], 200);
  owned.push(plane);
  const cases: [string, Step, BareOperation, Shape[], Shape[]][] = [
    ["union", { preset: "union", stock: ["a", "b"] }, "union", of(stock), of(cutters)],
    ["subtract", { preset: "subtract", stock: ["a"], cutters: ["b"] }, "subtract", of(stock), of(cutters)],
    ["intersect", { preset: "intersect", stock: ["a", "b"] }, "intersect", of(stock), of(cutters)],
    ["split", { preset: "split", stock: ["a"], cutters: ["b"] }, "split", of(stock), of(cutters)],
    ["trim", { preset: "trim", stock: ["a"], cutters: ["p"], keepSide: { p: "front" } }, "split", of(stock), [plane]],
  ];
  return cases.map(([preset, values, operation, left, right]) => {
    // Both work on bodies that are there already, as when a person changes the seam: only its own step is new.
    let round = 0;
    const ours = () => {
      const id = `s${++round}`;
      const { steps } = evaluate([...stock, ...cutters, across, { id, type: "seam", ...values }], ready);
      const report = steps.at(-1)!;
      // Between evaluations the engine frees what is over its limit: nothing that was made rounds ago weighs on this one.
      ready.trim(kept);
      if (report.state !== "good") throw new Error(`${preset}: ${report.error?.message}`);
      return report.ms;
    };
    const theirs = () => time(() => bare(operation, left, right));
    return { what: `${preset}, ${name}`, ratio: () => ours() / theirs() };
  });
}

/** The first evaluation of a fresh process, as it comes and after the warm-up, against a warm one in the same process. */
async function first(warm: boolean): Promise<void> {
  await loadNodeKernel();
  if (warm) for (const _ of warmUp(WARM_ROUNDS));
  const scene = (size: number): Step[] => [
    { id: "a", type: "box", size: [60, 50, size] },
    { id: "b", type: "cylinder", diameter: 24, height: 100, at: [4, 3, -20] },
    { id: "p", type: "workplane", base: "xy", offset: 14 },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
    { id: "t", type: "seam", preset: "split", stock: ["s"], cutters: ["p"] },
  ];
  // The job is checked where it is opened or edited, on the page and the server, long before and not by the engine: checking
  // the first one takes as long as building it, and is not part of what is measured.
  const once = timed(scene(40));
  const later: number[] = [];
  for (let i = 0; i < 40; i++) later.push(timed(scene(40.1 + i / 10)));
  console.log(JSON.stringify(once / median(later.slice(20))));
}

function fresh(argument: string): number {
  const run = spawnSync(process.execPath, [process.argv[1]!, argument], { encoding: "utf8" });
  if (run.status !== 0) throw new Error(run.stderr);
  return JSON.parse(run.stdout.trim().split("\n").at(-1)!);
}

/** A sheet of 20 steps, built again with nothing changed. */
function unchanged(): void {
  const steps: Step[] = [{ id: "b0", type: "box", size: [200, 60, 30] }];
  let last = "b0";
  for (let i = 0; steps.length < 20; i++) {
    steps.push({
      id: `c${i}`,
      type: "cylinder",
      diameter: 8 + i * 0.3,
      height: 80,
      at: [-80 + 18 * i, 2 * (i % 3), -20],
    });
    if (steps.length === 20) break;
    steps.push({
      id: `s${i}`,
      type: "seam",
      preset: "subtract",
      stock: [last],
      cutters: [`c${i}`],
      keepCutters: false,
    });
    last = `s${i}`;
  }
  const ratios: number[] = [];
  for (let round = 0; round < 3; round++) {
    const cache = new ResultCache();
    const job = jobOf(steps);
    const build = () => evaluatePart(job, job.parts[0]!, { cache, file: () => undefined });
    const before = time(build);
    // It takes about 2 ms, so a pause of the collector's can double one of them.
    ratios.push(median([1, 2, 3, 4, 5].map(() => time(build))) / before);
    cache.clear();
  }
  show("20 steps unchanged: second evaluation to first", median(ratios), "≤ 0.02");
}

/** A movement of a dragged sketch of more than 60 curves and 120 equations, against the time that one picture may take, 16 ms. */
function dragging(): void {
  const draft = new SketchMaker();
  for (let r = 0; r < 13; r++) {
    const x = r * 20;
    const corners: [number, number][] = [
      [x, 0],
      [x + 15, 1],
      [x + 16, 11],
      [x - 1, 10],
    ];
    corners.forEach((corner, i) => {
      draft.point(`r${r}p${i}`, ...corner);
    });
    for (let i = 0; i < 4; i++) draft.line(`r${r}l${i}`, `r${r}p${i}`, `r${r}p${(i + 1) % 4}`);
    for (const [i, type] of (["horizontal", "vertical", "horizontal", "vertical"] as const).entries())
      draft.holds(type, `r${r}l${i}`);
    draft.size("distance", 15, `r${r}l0`);
    draft.circle(`r${r}c`, [x + 7, 5], 3);
    draft.holds("tangent", `r${r}c`, `r${r}l0`);
    draft.size("upright", 6, `r${r}p0`, `r${r}c_c`);
    if (r === 0) continue;
    draft.holds("equal", `r${r}c`, "r0c");
    draft.size("distance", 22, `r${r - 1}p1`, `r${r}p0`);
    draft.holds("equal", `r${r}l1`, "r0l1");
  }
  const sizeOf = ({ value }: { value: unknown }) => Number(value);
  const { entities } = solveSketch(draft, sizeOf);
  const drag = new Drag({ ...draft, entities }, sizeOf, ["r12p2"]);
  const held = entities.find(({ id }) => id === "r12p2") as { x: number; y: number };
  const times: number[] = [];
  for (let i = 0; i < 200; i++)
    times.push(time(() => drag.to([[held.x + Math.sin(i / 20) * 15, held.y + Math.cos(i / 17) * 4]])));
  const equations = draft.constraints.length + draft.dimensions.length;
  show(
    `dragging ${13 * 5} curves under ${equations} rules: a movement to 16 ms, warm`,
    median(times.slice(100)) / 16,
    "≤ 1",
  );
}

const [mode] = process.argv.slice(2);
if (mode === "first-cold" || mode === "first-warm") await first(mode === "first-warm");
else {
  const runs = [1, 2, 3];
  show(
    "first evaluation of a fresh process to a warm one, no warm-up",
    median(runs.map(() => fresh("first-cold"))),
    "(to compare)",
  );
  show("first evaluation after the warm-up to a warm one", median(runs.map(() => fresh("first-warm"))), "< 2");
  await loadNodeKernel();
  presets(101);
  unchanged();
  await pieces(15);
  await editToPicture(21);
  cutsWithGap();
  audit();
  motion();
  dragging();
  await edits(60);
}
process.exit(0);
