import { beforeAll, describe, expect, test } from "vitest";
import { warnOfPinches } from "../evaluate";
import { contains } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";
import { Random } from "../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 40, 20] };
const subtract: Step = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"], keepCutters: false };
const reportOf = (...steps: Step[]) => {
  const built = buildSteps(...steps);
  const [report, ...others] = built.reports.filter(({ id }) => id.startsWith("s:"));
  expect(others).toEqual([]);
  return { report: report!, built };
};

/** Genus: the handles of the skins, as Euler–Poincaré counts them. */
describe("genus of bodies whose skin does not touch itself", () => {
  test.each([
    ["a block", [{ ...block, id: "s" }], 0],
    [
      "a block with a bore through",
      [block, { id: "b", type: "cylinder", diameter: 10, height: 60, at: [0, 0, -20] }, subtract],
      1,
    ],
    ["a block with a closed hollow", [block, { id: "b", type: "sphere", diameter: 10, at: [0, 0, 10] }, subtract], 0],
    [
      "a ball hollow that touches the block's own top from inside at no point",
      [block, { id: "b", type: "sphere", diameter: 19.9, at: [0, 0, 10] }, subtract],
      0,
    ],
  ] as [string, Step[], number][])("%s", (_name, steps, genus) => {
    const { report } = reportOf(...steps);
    expect(report).toMatchObject({ genus, pinches: [], closed: true, valid: true });
  });
});

describe("a skin that touches itself", () => {
  test("a bore that touches the block's side from inside: along the whole depth", () => {
    const bore = { id: "b", type: "cylinder", diameter: 10, height: 60, at: [15, 0, -20] };
    const { report, built } = reportOf(block, bore, subtract);
    expect(report.genus).toBeNull();
    expect(report.pinches).toHaveLength(1);
    expect(report.pinches[0]!.length).toBeCloseTo(20, 6);
    expect(report.pinches[0]!.at[0]).toBeCloseTo(20, 6);
    const [step] = warnOfPinches(
      built.steps.filter(({ id }) => id === "s"),
      built.reports.map((measures) => ({ ...measures, measures })),
    );
    expect(step).toMatchObject({ state: "warned" });
    expect(step!.warnings[0]!.message).toBe(
      "Block touches itself along a line of 20 mm: there is no thickness there. Move or resize what cut it.",
    );
  });

  test("a ball hollow that touches an edge of the block from inside: at that point, whatever else is cut through it", () => {
    const random = new Random(1212);
    let both = 0;
    for (let i = 0; i < 12; i++) {
      const [a, b, y] = [random.nice(3, 8, 1), random.nice(3, 8, 1), random.nice(-4, 4, 1)];
      const stock = { id: "a", type: "box", size: [60, 44, 32] };
      const ball = { id: "b", type: "sphere", diameter: 2 * Math.hypot(a, b), at: [30 - a, y, b] };
      // Through the middle of the ball, so that its rims are parted beside the place.
      const normal = [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)];
      const plane = { id: "w", type: "workplane", base: "normal", normal, through: [30 - a, y, b] };
      const cut = { id: "t", type: "seam", stock: ["s"], cutters: ["w"] };
      const built = buildSteps(stock, ball, subtract, plane);
      const touching = (
        bodies: readonly { id: string; pinches: readonly { at: readonly number[] }[] }[],
        step: string,
      ) => bodies.filter(({ id }) => id.startsWith(`${step}:`)).flatMap(({ pinches }) => pinches);
      const [whole] = touching(built.reports, "s");
      expect(touching(built.reports, "s")).toHaveLength(1);
      expect(Math.hypot(whole!.at[0]! - 30, whole!.at[1]! - y, whole!.at[2]!), `${a} ${b} ${y}`).toBeLessThan(1e-4);
      // Where the plane leaves what lies to both sides of the place in one piece, that touches itself; else two meet there.
      const cutUp = buildSteps(stock, ball, subtract, plane, cut);
      const [before, after] = [-0.2, 0.2].map((along) =>
        cutUp.bodies.findIndex(({ id, shape }) => id.startsWith("t:") && contains(shape, [30 - 1e-4, y + along, 1e-4])),
      );
      expect(Math.min(before!, after!)).toBeGreaterThanOrEqual(0);
      both += before === after ? 1 : 0;
      expect(touching(cutUp.reports, "t"), `${a} ${b} ${y} ${normal}`).toHaveLength(before === after ? 1 : 0);
    }
    expect(both).toBeGreaterThan(2);
  });

  test("two blocks joined that share one edge only", () => {
    const other = { id: "b", type: "box", size: [40, 40, 20], at: [40, 40, 0] };
    const bridge = { id: "c", type: "box", size: [40, 80, 20], at: [20, 20, -20] };
    const { report } = reportOf(block, other, bridge, {
      id: "s",
      type: "seam",
      preset: "union",
      stock: ["a", "b", "c"],
    });
    expect(report.pinches).toHaveLength(1);
    expect(report.pinches[0]!.length).toBeCloseTo(20, 6);
    expect(report.genus).toBeNull();
  });

  test("a ball hollow that touches the block's base from inside: two skins that meet at a point are two skins", () => {
    const ball = { id: "b", type: "sphere", diameter: 20, at: [0, 0, 10] };
    const { report } = reportOf({ ...block, size: [40, 40, 30] }, ball, subtract);
    expect(report.closed).toBe(true);
    expect(report.genus).toBe(0);
  });
});

test("bodies that would have the same name are numbered", () => {
  const built = buildSteps(block, { ...block, id: "b", at: [100, 0, 0] }, { ...block, id: "c", at: [200, 0, 0] });
  expect(built.bench.map(({ name }) => name)).toEqual(["Block", "Block 2", "Block 3"]);
});

describe("a cutter that divides nothing says why", () => {
  test("it only touches the skin", () => {
    const built = buildSteps(block, { id: "b", type: "box", size: [10, 10, 10], at: [0, 0, 20] }, subtract);
    expect(built.step("s").error!.message).toBe(
      "Block 2 only touches the skin of Block, so it divides nothing. Move it into Block.",
    );
  });
  test("it is the stock", () => {
    const built = buildSteps(block, { ...subtract, cutters: ["a"] });
    expect(built.step("s").error!.message).toBe("Block is both stock and cutter. Pick something else to cut with.");
  });
});
