import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { Random } from "../../testing/trust/random";
import { pairOf } from "./pair";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 40, 20] };
const pairOfSteps = (one: Step, other: Step, ...more: Step[]) => {
  const built = buildSteps(one, { ...other, id: other.id ?? "b" }, ...more);
  for (const { error } of built.steps) expect(error?.message).toBeUndefined();
  const [a, b] = [built.bodies[0]!, built.bodies.at(-1)!];
  return { pair: pairOf(a, b), back: pairOf(b, a), a, b };
};

describe("apart: the least distance, where, and by which faces", () => {
  test.each<[string, Step, number, string]>([
    ["a block beside a block", { type: "box", size: [10, 10, 10], at: [30, 0, 0] }, 5, "b:side:x-"],
    ["a ball over a block", { type: "sphere", diameter: 10, at: [3, 4, 27] }, 2, "b:skin"],
    [
      "a bar that lies over a block",
      { type: "cylinder", diameter: 6, height: 30, at: [-15, 0, 24], axis: "x" },
      1,
      "b:side",
    ],
  ])("%s", (_, other, gap, by) => {
    const { pair, back, b } = pairOfSteps(block, other);
    expect(pair).toMatchObject({ state: "apart", contact: null, overlap: null });
    expect(pair.gap).toBeCloseTo(gap, 9);
    expect(pair.faces[1].map((place) => b.faces[place])).toContain(by);
    expect(back.gap).toBe(pair.gap);
    expect(back.faces).toEqual([pair.faces[1], pair.faces[0]]);
  });

  test("a ball in a round room that it does not touch", () => {
    const hollow: Step[] = [
      { id: "a", type: "sphere", diameter: 60 },
      { id: "h", type: "sphere", diameter: 40 },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["h"], keepCutters: false },
    ];
    const built = buildSteps(...hollow, { id: "b", type: "sphere", diameter: 30, at: [1, 0, 0] });
    const pair = pairOf(built.bodies[0]!, built.bodies.at(-1)!);
    expect(pair.state).toBe("apart");
    expect(pair.gap).toBeCloseTo(4, 6);
  });
});

test("faces side by side are as near all over: the place is amidst them, not at a corner", () => {
  const { pair } = pairOfSteps(block, { type: "box", size: [10, 10, 10], at: [0, 0, 21] });
  expect(pair.gap).toBeCloseTo(1, 9);
  const [low, high] = pair.at;
  expect([low[0], low[1], low[2]]).toEqual([
    expect.closeTo(high[0], 6),
    expect.closeTo(high[1], 6),
    expect.closeTo(20, 6),
  ]);
  expect(Math.abs(low[0])).toBeLessThan(4.9);
  expect(Math.abs(low[1])).toBeLessThan(4.9);
});

describe("touching: in which area, or along an edge", () => {
  test("a block on a block: the smaller face", () => {
    const { pair, a, b } = pairOfSteps(block, { type: "box", size: [10, 12, 10], at: [18, 0, 20] });
    expect(pair).toMatchObject({ state: "touch", gap: 0, overlap: null });
    // It reaches 3 mm over the side at 20.
    expect(pair.contact).toBeCloseTo(7 * 12, 6);
    expect(pair.faces.map(([place], i) => [a, b][i]!.faces[place!])).toEqual(["a:side:z+", "b:side:z-"]);
  });

  test("a pin in a bore of its size: all the wall", () => {
    const bore: Step = { id: "h", type: "cylinder", diameter: 12, height: 40, at: [0, 0, -10] };
    const cut: Step = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["h"], keepCutters: false };
    const built = buildSteps(block, bore, cut, {
      id: "b",
      type: "cylinder",
      diameter: 12,
      height: 40,
      at: [0, 0, -10],
    });
    const pair = pairOf(built.bodies[0]!, built.bodies.at(-1)!);
    expect(pair.state).toBe("touch");
    expect(pair.contact! / (Math.PI * 12 * 20)).toBeCloseTo(1, 9);
  });

  test("a ball that rests on a block, and blocks edge to edge: in no area", () => {
    const ball = pairOfSteps(block, { type: "sphere", diameter: 10, at: [3, 4, 25] }).pair;
    expect(ball).toMatchObject({ state: "touch", contact: 0 });
    expect(ball.at[0]).toEqual([expect.closeTo(3, 5), expect.closeTo(4, 5), expect.closeTo(20, 5)]);
    expect(pairOfSteps(block, { type: "box", size: [10, 10, 10], at: [25, 0, 20] }).pair).toMatchObject({
      state: "touch",
      contact: 0,
    });
  });
});

describe("overlapping: how much, how deep, and where", () => {
  test("a block that reaches into a block", () => {
    const { pair } = pairOfSteps(block, { type: "box", size: [10, 12, 10], at: [0, 0, 17] });
    expect(pair.overlap!.volume).toBeCloseTo(10 * 12 * 3, 6);
    expect(pair.overlap!.depth).toBeCloseTo(3, 6);
    expect(pair.at[0][2]).toBeGreaterThan(17);
    expect(pair.at[0][2]).toBeLessThan(20);
  });

  test("a pin that is 0.03 thicker than its bore presses by 0.015 all round", () => {
    const bore: Step = { id: "h", type: "cylinder", diameter: 12, height: 40, at: [0, 0, -10] };
    const cut: Step = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["h"], keepCutters: false };
    const pin = { id: "b", type: "cylinder", diameter: 12.03, height: 40, at: [0, 0, -10] };
    const built = buildSteps(block, bore, cut, pin);
    const pair = pairOf(built.bodies[0]!, built.bodies.at(-1)!);
    expect(pair.overlap!.depth).toBeCloseTo(0.015, 6);
    expect(pair.overlap!.volume / (Math.PI * (6.015 ** 2 - 6 ** 2) * 20)).toBeCloseTo(1, 6);
  });

  test("one within the other altogether", () => {
    const { pair, back } = pairOfSteps(block, { type: "sphere", diameter: 6, at: [0, 0, 10] });
    expect(pair.overlap!.volume / (Math.PI * 36)).toBeCloseTo(1, 9);
    // From its skin, 7 to 13 mm above the floor of a block 20 mm high.
    // It is read at places of the skin, a fifth of a radian apart.
    expect(pair.overlap!.depth).toBeGreaterThan(9.7);
    expect(pair.overlap!.depth).toBeLessThan(10 + 1e-6);
    expect(back.overlap!.depth).toBe(pair.overlap!.depth);
  });
});

test("a sheet has nothing to share: where it meets a body, that is told", () => {
  const { pair } = pairOfSteps(
    block,
    { type: "box", size: [10, 10, 10], at: [0, 0, 15] },
    { id: "o", type: "offset-sheet", faces: [{ body: "b", face: "b:side:x+" }], distance: 0, extend: 0 },
  );
  expect(pair).toMatchObject({ state: "touch", contact: 0, overlap: null });
});

test("measured once for two shapes: while neither changes it is the same", () => {
  const { a, b, pair } = pairOfSteps(block, { type: "box", size: [10, 10, 10], at: [30, 0, 0] });
  expect(pairOf(a, b)).toBe(pair);
});

test("two balls by chance: apart by d − r − s, or sharing a lens of its closed form, as deep as they overlap", () => {
  const random = new Random(811);
  const seen = { apart: 0, overlap: 0 };
  for (let i = 0; i < 30; i++) {
    const [r, s] = [random.between(4, 12), random.between(4, 12)];
    const d = random.between(Math.abs(r - s) + 0.05, r + s + 6);
    const way = [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)];
    const at = way.map((value) => (value * d) / Math.hypot(...way));
    const { pair } = pairOfSteps({ id: "a", type: "sphere", diameter: 2 * r }, { type: "sphere", diameter: 2 * s, at });
    const words = JSON.stringify({ r, s, at });
    if (d > r + s) {
      seen.apart++;
      expect(pair.state, words).toBe("apart");
      expect(pair.gap, words).toBeCloseTo(d - r - s, 6);
    } else {
      seen.overlap++;
      // The lens: π (r + s − d)² (d² + 2 d (r + s) − 3 (r − s)²) / 12 d.
      const lens = (Math.PI * (r + s - d) ** 2 * (d * d + 2 * d * (r + s) - 3 * (r - s) ** 2)) / (12 * d);
      expect(pair.state, words).toBe("overlap");
      expect(pair.overlap!.volume / lens, words).toBeCloseTo(1, 6);
      // Read at places of the skin: none is deeper, and the deepest is nearly found.
      expect(pair.overlap!.depth, words).toBeLessThan(r + s - d + 1e-6);
      // Deeper than half a radius the rim of the lens is nearer than the far side.
      if (r + s - d < Math.min(r, s) / 2) expect(pair.overlap!.depth, words).toBeGreaterThan((r + s - d) * 0.9);
    }
  }
  expect(Math.min(seen.apart, seen.overlap)).toBeGreaterThan(4);
});
