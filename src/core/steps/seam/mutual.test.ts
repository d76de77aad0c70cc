import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

/** A flat sheet: a line drawn in a plane, drawn out to both sides. */
const sheet = (id: string, on: object, from: readonly number[], to: readonly number[], width: number) => [
  { id: `${id}w`, type: "workplane", ...on },
  {
    id: `${id}s`,
    type: "sketch",
    on: "workplane",
    plane: [`${id}w`],
    entities: [
      { id: "a", type: "point", x: from[0], y: from[1] },
      { id: "b", type: "point", x: to[0], y: to[1] },
      { id: "l", type: "line", from: "a", to: "b" },
    ],
  },
  { id, type: "extrude", sketch: [`${id}s`], as: "sheet", extent: "symmetric", distance: width },
];
const flat = { base: "xy" };
// Two sheets that stand square on one another: along X through the middle, along Y at x = 7.
const cross = [...sheet("p", flat, [-30, 0], [30, 0], 40), ...sheet("q", flat, [7, -25], [7, 25], 40)];
const seam = (values: object) => ({ id: "t", type: "seam", cutters: [], mutual: true, ...values });

function made(...steps: object[]) {
  const built = buildSteps(...(steps as Record<string, unknown>[]));
  const { state, error, warnings } = built.step("t");
  const own = built.reports.filter(({ id }) => id.startsWith("t:"));
  return {
    state,
    error,
    warnings,
    own,
    areas: own.map(({ area }) => Math.round(area * 1e6) / 1e6).sort((a, b) => a - b),
  };
}

describe("sheets that divide each other", () => {
  test("split: four halves; nothing but each other cuts", () => {
    const { state, areas } = made(...cross, seam({ preset: "split", stock: ["p", "q"] }));
    expect(state).toBe("good");
    expect(areas).toEqual([23 * 40, 25 * 40, 25 * 40, 37 * 40]);
  });

  test("trim: one of each stays, by the side of the other that is asked for", () => {
    const sides = { p: "front", q: "front" };
    const areas: number[][] = [];
    for (const p of ["front", "back"])
      for (const q of ["front", "back"]) {
        const one = made(...cross, seam({ preset: "trim", stock: ["p", "q"], keepSide: { ...sides, p, q } }));
        expect(one.state).toBe("good");
        areas.push(one.areas);
      }
    // Half of the second in every case; of the first, each part twice.
    expect(areas.flat().sort((a, b) => a - b)).toEqual([920, 920, 1000, 1000, 1000, 1000, 1480, 1480]);
    expect(areas.every((two) => two.length === 2 && two.includes(1000))).toBe(true);
  });

  test("not asked for, they do not", () => {
    const { state, error } = made(...cross, seam({ preset: "split", stock: ["p", "q"], mutual: false }));
    expect([state, error?.code]).toEqual(["failed", "nothing-picked"]);
  });

  test("what was said of their sides waits while they do not cut, and holds when they do again", () => {
    const plane = { id: "w", type: "workplane", base: "xy", offset: 5 };
    const sides = { p: "back", "q:sheet": "back" };
    const trim = { preset: "trim", stock: ["p", "q"], cutters: ["w"] };
    const without = made(...cross, plane, seam({ ...trim, mutual: false }));
    expect(without.state).toBe("good");
    expect(made(...cross, plane, seam({ ...trim, mutual: false, keepSide: sides })).areas).toEqual(without.areas);
    expect(made(...cross, plane, seam({ ...trim, keepSide: sides })).areas).not.toEqual(without.areas);
  });

  test("one alone has nothing to divide it", () => {
    const { state, error } = made(...cross, seam({ preset: "split", stock: ["p"] }));
    expect([state, error?.code]).toEqual(["failed", "nothing-picked"]);
  });

  test("one that no other reaches is told", () => {
    const away = sheet("r", flat, [200, 0], [230, 0], 40);
    const { state, warnings, areas } = made(...cross, ...away, seam({ preset: "split", stock: ["p", "q", "r"] }));
    expect(state).toBe("warned");
    expect(areas).toEqual([920, 1000, 1000, 1200, 1480]);
    expect(warnings.map(({ code }) => code)).toContain("stock-missed");
  });

  // Each of n planes in general position is cut by the n − 1 others along lines of which no two are parallel and no three meet in
  // a point: 1 + (n − 1) + (n − 1)(n − 2) / 2 regions of the plane (Steiner 1826). No two sheets end at the same places of the line
  // in which they cross, so one of them is too short to divide the other unless it runs on.
  test.each([2, 3, 4, 5])("%i planes anyhow, run on: as many pieces of each as lines divide a plane into", (n) => {
    const random = new Random(7700 + n);
    const names = Array.from({ length: n }, (_, i) => `p${i}`);
    const half = 5000;
    const sheets = names.flatMap((id) => {
      const turn = random.between(0, Math.PI);
      const [x, y] = [random.between(-5, 5), random.between(-5, 5)];
      const [u, v] = [half * Math.cos(turn), half * Math.sin(turn)];
      const normal = [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)];
      return sheet(id, { base: "normal", normal }, [x - u, y - v], [x + u, y + v], 2 * half);
    });
    const { state, own } = made(...sheets, seam({ preset: "split", stock: names, runSheets: true }));
    expect(state).toBe("good");
    expect(own.length).toBe(n * (1 + (n - 1) + ((n - 1) * (n - 2)) / 2));
    const area = own.reduce((sum, one) => sum + one.area, 0);
    expect(relative(area, n * (2 * half) ** 2)).toBeLessThan(1e-9);
  });
});

describe("solids that divide each other", () => {
  const balls = [
    { id: "p", type: "sphere", diameter: 20, at: [0, 0, 0] },
    { id: "q", type: "sphere", diameter: 20, at: [12, 0, 0] },
  ];
  // What two balls of radius r share whose middles are d apart: π (4 r + d) (2 r − d)² / 12.
  const shared = (Math.PI * (4 * 10 + 12) * (20 - 12) ** 2) / 12;
  const whole = (4 / 3) * Math.PI * 1000;

  test("each taken away from the other: what they share is gone from both", () => {
    const { state, own } = made(...balls, seam({ preset: "subtract", stock: ["p", "q"] }));
    expect(state).toBe("good");
    for (const { volume } of own) expect(relative(volume!, whole - shared)).toBeLessThan(1e-9);
    expect(own.length).toBe(2);
  });

  test("with another cutter beside them", () => {
    const plane = { id: "w", type: "workplane", base: "xy" };
    const { own } = made(...balls, plane, seam({ preset: "split", stock: ["p", "q"], cutters: ["w"] }));
    expect(own.length).toBe(8);
    expect(
      relative(
        own.reduce((sum, { volume }) => sum + volume!, 0),
        2 * whole,
      ),
    ).toBeLessThan(1e-9);
  });
});
