import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf, volumeOfStep } from "../testing/harness";
import { ResultCache } from "./cache";
import { evaluatePart } from "./evaluate";
import { freePieces } from "./free";
import { Held } from "./held";

beforeAll(loadNodeKernel);

// A bar that fills a cube, leaning by a thousandth of a degree: its side leaves those of the cube by less than the library sees.
const SIZE = 36.307;
const leaning = [
  { id: "cube", type: "box", size: [SIZE, SIZE, SIZE] },
  { id: "bar", type: "cylinder", diameter: SIZE, height: 60, at: [0, 0, -30] },
  { id: "lean", type: "move", bodies: ["bar"], turn: -0.001, axis: "y" },
];
// Over the cube's height its axis goes astray by this.
const LEANS = (Math.PI / 180_000) * SIZE;

const seam = (preset: string, more = {}) => ({
  id: "s",
  type: "seam",
  preset,
  ...(preset === "union" ? { stock: ["cube", "bar"] } : { stock: ["cube"], cutters: ["bar"] }),
  ...more,
});

const toldBy = (warnings: readonly { code: string; message: string }[]) =>
  warnings.flatMap(({ code, message }) =>
    code === "approximate" ? [Number(/right to ([\d.]+) mm/.exec(message)![1])] : [],
  );

test.each(["union", "subtract", "split"])(
  "%s: where skins cross unseen, it says by how much it is off, and where",
  (preset) => {
    const built = build(jobOf([...leaning, seam(preset)]));
    const { state, warnings } = built.step("s");
    expect(state).toBe("warned");
    const [told] = toldBy(warnings);
    expect(told).toBeGreaterThan(LEANS / 4);
    expect(told).toBeLessThan(3 * LEANS);
    const { at, bodies } = warnings.find(({ code }) => code === "approximate")!;
    expect(Math.hypot(at![0], at![1])).toBeCloseTo(SIZE / 2, 1);
    expect(bodies).toHaveLength(1);
    // What it is off by covers what the volume is: the bar ends 30 mm above the cube's foot.
    const bar = (Math.PI / 4) * SIZE ** 2 * 30;
    const rest = SIZE ** 3 - bar;
    const skin = Math.PI * SIZE ** 2;
    const expected = { union: rest + (Math.PI / 4) * SIZE ** 2 * 60, subtract: rest, split: SIZE ** 3 }[preset]!;
    expect(Math.abs(volumeOfStep(built, "s") - expected)).toBeLessThan(told! * skin + 1e-6 * SIZE ** 3);
  },
);

test("what a step held from before is off by what it was: decisions do not make it forget", () => {
  const [held, cache] = [new Held(), new ResultCache()];
  const told = [
    seam("split"),
    seam("split", { keepSide: { bar: "in" } }),
    seam("split", { keepSide: { bar: "out" } }),
  ].map((open) => {
    const job = jobOf([...leaning, open]);
    const result = evaluatePart(job, job.parts[0]!, { cache, file: () => undefined, pieces: "s", held });
    freePieces(result.pieces ?? []);
    return toldBy(result.steps.at(-1)!.warnings);
  });
  expect(held.count).toEqual({ made: 1, known: 2 });
  expect(told[0]).toHaveLength(1);
  expect(told[1]).toEqual(told[0]);
  expect(told[2]).toEqual(told[0]);
  held.clear();
  cache.clear();
});

test("a step that divides on its way tells it, too: an outline that is cut out of a body", () => {
  const built = build(
    jobOf([
      leaning[0]!,
      { id: "plane", type: "workplane", base: "turned", axis: "y", angle: -0.001, through: [0, 0, -30], offset: 0 },
      {
        id: "round",
        type: "sketch",
        on: "workplane",
        plane: ["plane"],
        entities: [
          { id: "o", type: "point", x: 0, y: 0 },
          { id: "c", type: "circle", centre: "o", radius: SIZE / 2 },
        ],
      },
      { id: "cut", type: "extrude", sketch: ["round"], distance: 60, into: "cut", targets: ["cube"] },
    ]),
  );
  expect(built.step("cut").error).toBeUndefined();
  const [told] = toldBy(built.step("cut").warnings);
  expect(told).toBeGreaterThan(LEANS / 4);
});
