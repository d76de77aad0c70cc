import { beforeAll, describe, expect, test } from "vitest";
import { facesOf, nearest } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const copy = (more: Step): Step => ({ id: "o", type: "clearance", body: ["a"], ...more });
const made = (steps: Step[], more: Step) => {
  const built = buildSteps(...steps, copy(more));
  expect(built.step("o").error?.message).toBeUndefined();
  const [a, b] = [
    built.bodies.find(({ id }) => !id.startsWith("o:"))!,
    built.bodies.find(({ id }) => id === "o:copy")!,
  ];
  const gaps = facesOf(b.shape).map((face) => Math.min(...facesOf(a.shape).map((own) => nearest(own, face)!.gap)));
  return { built, gaps, volume: volumeOfStep(built, "o") };
};

const box: Step = { id: "a", type: "box", size: [40, 30, 20] };
const bar: Step = { id: "a", type: "cylinder", diameter: 20, height: 30 };
const [A, B, C, R, H] = [40, 30, 20, 10, 30];

describe("grown with round corners: Steiner's formula, V + A d + M d² + 4/3 π d³ (convex bodies; M of a block π (a + b + c))", () => {
  test.each([0.25, 2, 15])("a block by %d", (d) => {
    const { volume, gaps } = made([box], { distance: d, corners: "round" });
    const steiner =
      A * B * C + 2 * (A * B + B * C + C * A) * d + Math.PI * (A + B + C) * d ** 2 + (4 / 3) * Math.PI * d ** 3;
    expect(volume / steiner).toBeCloseTo(1, 6);
    for (const gap of gaps) expect(gap).toBeCloseTo(d, 6);
  });

  test.each([0.254, 3])("a bar by %d: M is π h + π² r", (d) => {
    const { volume } = made([bar], { distance: d, corners: "round" });
    const steiner =
      Math.PI * R ** 2 * H +
      2 * Math.PI * R * (R + H) * d +
      (Math.PI * H + Math.PI ** 2 * R) * d ** 2 +
      (4 / 3) * Math.PI * d ** 3;
    expect(volume / steiner).toBeCloseTo(1, 6);
  });
});

describe("grown and shrunk with sharp corners", () => {
  test("a block, a bar, a ball, a ring", () => {
    expect(made([box], { distance: 2 }).volume).toBeCloseTo(44 * 34 * 24, 6);
    expect(made([box], { distance: -2 }).volume).toBeCloseTo(36 * 26 * 16, 6);
    expect(made([bar], { distance: "1/16 in" }).volume / (Math.PI * 11.5875 ** 2 * 33.175)).toBeCloseTo(1, 9);
    expect(
      made([{ id: "a", type: "sphere", diameter: 20 }], { distance: -1 }).volume / ((4 / 3) * Math.PI * 729),
    ).toBeCloseTo(1, 9);
    const ring = { id: "a", type: "torus", diameter: 40, section: 10 };
    expect(made([ring], { distance: 1 }).volume / (2 * Math.PI ** 2 * 20 * 36)).toBeCloseTo(1, 9);
  });

  test("a body with an inner corner: sharp there too, and a pocket gets narrower", () => {
    const pocket: Step[] = [
      box,
      { id: "p", type: "box", size: [20, 10, 20], at: [0, 0, 10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["p"], keepCutters: false },
    ];
    const { volume, gaps } = made(pocket, { body: ["s"], distance: 1 });
    expect(volume).toBeCloseTo(42 * 32 * 22 - 18 * 8 * 10, 6);
    for (const gap of gaps) expect(gap).toBeCloseTo(1, 6);
    // Shrunk with round corners: the inner edges of the pocket are rounded as a ball rolls round them.
    const shrunk = made(pocket, { body: ["s"], distance: -1, corners: "round" });
    for (const gap of shrunk.gaps) expect(gap).toBeCloseTo(1, 6);
    expect(shrunk.volume).toBeGreaterThan(38 * 28 * 18 - 22 * 12 * 10);
  });

  test("the first stays as it is; the copy is called after it, and its faces by those of the first", () => {
    const { built } = made([{ ...box, name: "Plug" }], { distance: 0.25 });
    expect(built.reports.map(({ volume }) => volume)).toContainEqual(expect.closeTo(A * B * C, 6));
    const body = built.bodies.find(({ id }) => id === "o:copy")!;
    expect([...body.faces].sort()).toEqual(["x+", "x-", "y+", "y-", "z+", "z-"].map((side) => `o:off:a:side:${side}`));
  });
});

describe("what cannot be is told, with what would do", () => {
  const error = (steps: Step[], more: Step) => buildSteps(...steps, copy(more)).step("o").error;

  test("shrunk past its middle; a radius that is used up; by nothing; nothing picked", () => {
    const gone = error([box], { distance: -10 })!;
    expect(gone.code).toMatch(/^clearance-/);
    expect(gone.repair!.set.distance).toBeGreaterThan(-10);
    const mended = buildSteps(box, copy({ ...gone.repair!.set }));
    expect(mended.step("o").state).not.toBe("failed");
    expect(error([{ id: "a", type: "sphere", diameter: 10 }], { distance: -5 })!.code).toBe("clearance-ends");
    expect(error([box], { distance: 0 })!.code).toBe("no-distance");
    expect(error([box], { body: [] })!.code).toBe("nothing-picked");
  });

  test("a slot that the distance closes is gone in the copy, and that is said", () => {
    const slot: Step[] = [
      box,
      { id: "p", type: "box", size: [1, 60, 20], at: [0, 0, 10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["p"], keepCutters: false },
    ];
    const built = buildSteps(...slot, copy({ body: ["s"], distance: 1 }));
    expect(built.step("o").warnings.map(({ code }) => code)).toEqual(["faces-gone"]);
    expect(volumeOfStep(built, "o")).toBeCloseTo(42 * 32 * 22, 6);
  });
});

test("a body with a free face is grown and shrunk as a whole: an elliptical bar, by Steiner's formula for parallel curves", () => {
  const [a, b, high] = [20, 8, 30];
  const bar = [
    {
      id: "sk",
      type: "sketch",
      on: "xy",
      entities: [
        { id: "c", type: "point", x: 0, y: 0 },
        { id: "m", type: "point", x: a, y: 0 },
        { id: "el", type: "ellipse", centre: "c", major: "m", minor: b },
      ],
    },
    { id: "e", type: "extrude", sketch: ["sk"], distance: high },
  ];
  // All round an ellipse the trapezoid rule is exact to rounding.
  const PARTS = 4000;
  const around = Array.from({ length: PARTS }, (_, i) => {
    const t = (2 * Math.PI * i) / PARTS;
    return (2 * Math.PI * Math.hypot(a * Math.sin(t), b * Math.cos(t))) / PARTS;
  }).reduce((sum, part) => sum + part, 0);
  for (const by of [0.5, -0.5, 2]) {
    const built = buildSteps(...bar, { id: "k", type: "clearance", body: ["e:solid"], distance: by });
    expect(built.step("k").error ?? null).toBeNull();
    const copy = built.reports.at(-1)!;
    expect(copy).toMatchObject({ closed: true, valid: true, faces: 3 });
    const area = Math.PI * a * b + around * by + Math.PI * by * by;
    expect(relative(copy.volume!, area * (high + 2 * by))).toBeLessThan(1e-6);
  }
});
