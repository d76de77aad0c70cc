import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const line = (id: string, from: [number, number], to: [number, number]): Step => {
  const draft = new SketchMaker();
  draft.line("l", from, to);
  return { id, type: "sketch", entities: draft.entities };
};
/** A flat sheet in the plane of Z and X, 80 by 60. */
const flat: Step[] = [
  line("k", [-40, 0], [40, 0]),
  { id: "a", type: "extrude", name: "Flat", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 60 },
];
const knife = (from: [number, number], to: [number, number], more: Step = {}): Step[] => [
  line("q", from, to),
  { id: "b", type: "extrude", name: "Knife", sketch: ["q"], as: "sheet", extent: "symmetric", distance: 20, ...more },
];
const seam = (more: Step = {}): Step => ({ id: "s", type: "seam", stock: ["a"], cutters: ["b"], ...more });

test("a cutter that goes part of the way through a sheet is short by what it lacks, and may run on", () => {
  const built = buildSteps(...flat, ...knife([7, -10], [7, 10]), seam());
  const { error } = built.step("s");
  expect(error).toMatchObject({
    code: "cutter-short",
    message: "Knife stops short inside Flat. It has to reach 20 mm further. Extend it, or use a workplane.",
  });
  expect(error!.at!.map((x) => Math.round(Math.abs(x) * 1e6) / 1e6)).toEqual([7, 0, 10]);
  const repairs = [error!.repair!, ...(error!.others ?? [])];
  expect(repairs.length).toBeGreaterThan(0);
  for (const { step, set } of repairs.filter(({ step }) => step === "s")) {
    const done = buildSteps(...flat, ...knife([7, -10], [7, 10]), seam(set as Step));
    expect([done.step(step).state, done.reports.filter(({ id }) => id.startsWith("s:")).length]).toEqual(["good", 2]);
  }
});

test("by chance: it ends inside by what is said, or comes out and divides", () => {
  const random = new Random(5);
  for (let i = 0; i < 12; i++) {
    const length = random.between(10, 110);
    const x = random.between(-30, 30);
    const built = buildSteps(...flat, ...knife([x, -5], [x + 1, 5], { distance: length }), seam());
    const { state, error } = built.step("s");
    if (length > 60) expect([state, built.reports.filter(({ id }) => id.startsWith("s:")).length]).toEqual(["good", 2]);
    else {
      expect(error!.code).toBe("cutter-short");
      const said = Number(/reach ([\d.]+) mm/.exec(error!.message)![1]);
      expect(Math.abs(said - (30 - length / 2))).toBeLessThan(0.0011);
    }
  }
});

test("through one edge and no further; on a bent sheet without a number; one that only touches", () => {
  const half = buildSteps(...flat, ...knife([7, -10], [7, 10], { extent: "distance", distance: 45 }), seam());
  expect(half.step("s").error!.message).toContain("It has to reach");
  const bent = new SketchMaker();
  bent.arc("c", [0, -50], [40, -20], [-40, -20]);
  const roof = [{ id: "k", type: "sketch", entities: bent.entities }, flat[1]!];
  const along = [line("q", [-5, -20], [5, 20]), { ...knife([0, 0], [1, 1])[1]!, distance: 20 }];
  const { error } = buildSteps(...roof, ...along, seam()).step("s");
  expect(error!.code).toBe("cutter-short");
  const touch = buildSteps(...flat, ...knife([7, 0], [7, 10]), seam()).step("s").error!;
  expect(touch.message).toBe("Knife only touches the skin of Flat, so it divides nothing. Move it into Flat.");
});
