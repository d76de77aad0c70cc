import { beforeAll, describe, expect, test } from "vitest";
import { allFaceFacts } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const FACTORS = { alongX: 2, alongY: 0.5, alongZ: 1.5 };
const TIMES = 2 * 0.5 * 1.5;
const stretched = (steps: Step[], body: string, more: Step = {}) =>
  buildSteps(...steps, { id: "z", type: "scale", bodies: [body], by: "axes", ...FACTORS, ...more });

const fillet = (edges: Step[], radius: number): Step => ({ id: "f", type: "fillet", edges, radius });
const block = { id: "a", type: "box", size: [40, 30, 20], at: [5, 7, 3] };

describe("by a factor for each axis: the volume times all three, faces and their names kept", () => {
  test.each([
    ["a block", [block], 24000],
    [
      "a cylinder becomes one of an ellipse",
      [{ id: "a", type: "cylinder", diameter: 20, height: 30, at: [3, 4, 5] }],
      Math.PI * 100 * 30,
    ],
    ["a lying one", [{ id: "a", type: "cylinder", diameter: 20, height: 30, axis: "y" }], Math.PI * 100 * 30],
    [
      "a sphere becomes an ellipsoid",
      [{ id: "a", type: "sphere", diameter: 24, at: [1, 2, 3] }],
      (4 / 3) * Math.PI * 12 ** 3,
    ],
    ["a cone, to its tip", [{ id: "a", type: "cone", diameter: 20, top: 0, height: 30 }], (Math.PI * 100 * 30) / 3],
    [
      "the frustum of one",
      [{ id: "a", type: "cone", diameter: 20, top: 8, height: 30, axis: "x" }],
      (Math.PI * 30 * (100 + 40 + 16)) / 3,
    ],
    ["a ring", [{ id: "a", type: "torus", diameter: 60, section: 12 }], 2 * Math.PI ** 2 * 30 * 36],
  ] as [string, Step[], number][])("%s", (_name, steps, volume) => {
    const built = stretched(steps, "a");
    expect(built.step("z").error ?? null).toBeNull();
    expect(relative(built.reports[0]!.volume!, TIMES * volume)).toBeLessThan(1e-6);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true });
    const before = buildSteps(...steps).bodies[0]!;
    expect(built.bodies[0]!.faces.toSorted()).toEqual(before.faces.toSorted());
    expect(built.bodies[0]!.id).toBe(before.id);
  });

  test("planes and lines stay what they are", () => {
    const built = stretched([block], "a");
    expect(allFaceFacts(built.bodies[0]!.shape).every(({ kind }) => kind === "plane")).toBe(true);
    const { min, max } = built.reports[0]!.box!;
    expect([min, max].flat().map((v) => Math.round(v * 1e6) / 1e6)).toEqual([-30, -4, 4.5, 50, 11, 34.5]);
  });

  test.each([
    [
      "a rounded block, corners and all",
      ["x+|a:side:y+", "x+|a:side:z+", "y+|a:side:z+", "x-|a:side:z+", "x-|a:side:y+"],
    ],
    ["one rounded edge at the back", ["x-|a:side:y-"]],
  ])("%s: parts of cylinders, spheres and rings", (_name, names) => {
    const round = fillet(
      names.map((name) => ({ body: "a", edge: `a:side:${name}` })),
      4,
    );
    const before = buildSteps(block, round);
    const built = stretched([block, round], "a");
    expect(built.step("z").error ?? null).toBeNull();
    expect(relative(built.reports[0]!.volume!, TIMES * before.reports[0]!.volume!)).toBeLessThan(1e-6);
    expect(built.bodies[0]!.faces.toSorted()).toEqual(before.bodies[0]!.faces.toSorted());
  });

  test("a rounded rim, and part of a ring", () => {
    const pin = { id: "a", type: "cylinder", diameter: 30, height: 20 };
    const rim = fillet([{ body: "a", edge: "a:cap:end|a:side" }], 4);
    const cut = { id: "c", type: "box", size: [40, 40, 40], at: [20, 20, 0] };
    const quarter = { id: "q", type: "seam", preset: "subtract", stock: ["a"], cutters: ["c"], keepCutters: false };
    const before = buildSteps(pin, rim, cut, quarter);
    const built = stretched([pin, rim, cut, quarter], "q");
    expect(built.step("z").error ?? null).toBeNull();
    expect(relative(built.reports[0]!.volume!, TIMES * before.reports[0]!.volume!)).toBeLessThan(1e-6);
  });

  test("what was drawn out from a free curve", () => {
    const d = new SketchMaker();
    for (const [i, [x, y]] of (
      [
        [0, 0],
        [30, 0],
        [30, 20],
        [0, 20],
      ] as const
    ).entries())
      d.point(`p${i}`, x, y);
    for (let i = 0; i < 3; i++) d.line(`l${i}`, `p${i}`, `p${i + 1}`);
    d.point("m", -6, 10);
    d.entities.push({
      id: "s",
      type: "spline",
      form: "through",
      points: ["p3", "m", "p0"],
      closed: false,
      construction: false,
    });
    const steps = [
      { id: "k", type: "sketch", entities: d.entities },
      { id: "a", type: "extrude", sketch: ["k"], distance: 9 },
    ];
    const before = buildSteps(...steps);
    const built = stretched(steps, "a");
    expect(built.step("z").error ?? null).toBeNull();
    expect(relative(built.reports[0]!.volume!, TIMES * before.reports[0]!.volume!)).toBeLessThan(1e-6);
  });

  test("about a point, which stays; equal factors are one", () => {
    const { min, max } = stretched([block], "a", { about: [5, 7, 3] }).reports[0]!.box!;
    expect([(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      5, 7, 3,
    ]);
    const even = stretched([{ id: "a", type: "sphere", diameter: 10 }], "a", { alongX: 2, alongY: 2, alongZ: 2 });
    expect(allFaceFacts(even.bodies[0]!.shape)[0]).toMatchObject({ kind: "sphere", radius: 10 });
  });
});

test.each([
  ["a sheet", [{ id: "a", type: "extrude", sketch: ["k"], as: "sheet", distance: 5 }], /is a sheet: only solids/],
  ["no factor", [{ id: "a", type: "extrude", sketch: ["k"], distance: 5 }], /has to be more than 0/],
])("%s: refused", (name, steps, message) => {
  const d = new SketchMaker();
  d.circle("c", [0, 0], 5);
  const sketch = { id: "k", type: "sketch", entities: d.entities };
  const more = name === "no factor" ? { alongX: "1 - 1" } : {};
  expect(stretched([sketch, ...steps], "a", more).step("z").error!.message).toMatch(message);
});

test("a turned free curve has no exact form once stretched unevenly: that is said", () => {
  const d = new SketchMaker();
  for (const [i, [x, y]] of (
    [
      [0, 0],
      [8, 0],
      [5, 20],
      [0, 20],
    ] as const
  ).entries())
    d.point(`p${i}`, x, y);
  d.line("l0", "p0", "p1");
  d.point("m", 12, 9);
  d.entities.push({
    id: "s",
    type: "spline",
    form: "through",
    points: ["p1", "m", "p2"],
    closed: false,
    construction: false,
  });
  d.line("l1", "p2", "p3");
  d.line("l2", "p3", "p0");
  const { error } = stretched(
    [
      { id: "k", type: "sketch", entities: d.entities },
      { id: "a", type: "revolve", sketch: ["k"] },
    ],
    "a",
  ).step("z");
  expect(error!.message).toMatch(/^Solid has faces that have no exact form once stretched/);
});
