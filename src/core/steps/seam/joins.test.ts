import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

// A block from −50 to 50 along X, and a bracket that stands on its right end.
const block = { id: "a", type: "box", size: [100, 40, 20] };
const bracket = { id: "b", type: "box", name: "Bracket", size: [20, 40, 30], at: [60, 0, 0] };
const plane = { id: "w", type: "workplane", base: "yz", offset: 30 };
const seam = (more: Step): Step => ({ id: "s", type: "seam", stock: ["a"], cutters: ["w"], ...more });
const toGroup = (side: string, group: string) => ({ where: { sides: { w: side } }, fate: "group", group });

function result(...steps: Step[]) {
  const built = buildSteps(...steps);
  const { state, error, warnings } = built.step("s");
  const volumes = built.reports.map(({ name, volume }) => [name, volume] as const);
  return {
    built,
    state,
    error,
    warnings,
    volumes,
    volume: (name: string) => built.reports.find((one) => one.name === name)!.volume!,
  };
}

describe("pieces joined to a body", () => {
  const end = { rules: [toGroup("front", "End")], joins: [{ group: "End", to: "b" }] };

  test("the body goes on: its name, its look, what later steps say of it", () => {
    const { state, built, volume } = result(block, bracket, plane, seam(end));
    expect(state).toBe("good");
    expect(built.reports.map(({ name }) => name)).toEqual(["Block", "Bracket"]);
    expect(relative(volume("Block"), 80 * 40 * 20)).toBeLessThan(1e-9);
    expect(relative(volume("Bracket"), 20 * 40 * 50)).toBeLessThan(1e-9);
    expect(built.reports.every(({ valid, genus }) => valid && genus === 0)).toBe(true);
    expect(built.step("s").becomes).toMatchObject({ "b:block": expect.stringMatching(/^s:group:End$/) });
    // Their faces on one surface are one, and a later step that names the bracket finds what it is now.
    const moved = buildSteps(block, bracket, plane, seam(end), { id: "m", type: "move", bodies: ["b"], by: [0, 0, 5] });
    expect(moved.step("m").state).toBe("good");
    expect(moved.reports.map(({ volume: size }) => Math.round(size!)).sort()).toEqual([40000, 64000]);
  });

  test("it follows the cut, and an edit of the body", () => {
    const at = (offset: number, height: number) =>
      result(block, { ...bracket, size: [20, 40, height] }, { ...plane, offset }, seam(end)).volume("Bracket");
    expect(relative(at(10, 30), 40 * 40 * 20 + 20 * 40 * 30)).toBeLessThan(1e-9);
    expect(relative(at(30, 12), 20 * 40 * 20 + 20 * 40 * 12)).toBeLessThan(1e-9);
  });

  test("pieces that overlap the body count once; one that does not touch it is told and stays", () => {
    const over = result(block, { ...bracket, at: [55, 0, 0] }, plane, seam(end));
    expect(relative(over.volume("Bracket"), 20 * 40 * 20 + 20 * 40 * 30 - 5 * 40 * 20)).toBeLessThan(1e-9);
    const far = result(block, { ...bracket, at: [65, 0, 0] }, plane, seam(end));
    expect(far.state).toBe("warned");
    expect(far.warnings[0]!.message).toBe("“End” does not touch Bracket along a face, so it stays a body of its own.");
    expect(far.volumes.map(([, size]) => Math.round(size!)).sort()).toEqual([16000, 24000, 64000]);
    // Along an edge is not along a face.
    const edge = result(block, { ...bracket, at: [60, 40, 0] }, plane, seam(end));
    expect(edge.warnings.map(({ code }) => code)).toEqual(["group-apart"]);
    expect(edge.built.reports.every(({ valid, pinches }) => valid && pinches.length === 0)).toBe(true);
  });

  test("a cutter that stays may be the body; of a fill what encloses", () => {
    const both = {
      preset: "split",
      cutters: ["w", "b"],
      rules: [toGroup("front", "End")],
      joins: [{ group: "End", to: "b" }],
    };
    const { state, volume } = result(block, { ...bracket, at: [55, 0, 0] }, plane, seam(both));
    expect(["good", "warned"]).toContain(state);
    expect(relative(volume("Bracket"), 20 * 40 * 20 + 20 * 40 * 30 - 5 * 40 * 20)).toBeLessThan(1e-9);
    const cup: Step[] = [
      { id: "o", type: "box", name: "Cup", size: [40, 40, 30] },
      { id: "i", type: "box", size: [30, 30, 40], at: [0, 0, 5] },
      { id: "c", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
      { id: "w", type: "workplane", base: "xy", offset: 15 },
    ];
    const filled = result(...cup, {
      id: "s",
      type: "seam",
      preset: "fill",
      stock: ["c"],
      cutters: ["w"],
      rules: [{ where: {}, fate: "group", group: "Bottom" }],
      joins: [{ group: "Bottom", to: "c" }],
    });
    expect(filled.state).toBe("good");
    expect(filled.volumes.map(([name]) => name)).toEqual(["Cup"]);
    expect(relative(filled.volume("Cup"), 40 * 40 * 30 - 30 * 30 * 15)).toBeLessThan(1e-9);
  });

  test("pieces of several stock bodies are one group where they touch", () => {
    const second = { id: "c", type: "box", size: [100, 40, 10], at: [0, 0, 20] };
    const group = { stock: ["a", "c"], rules: [toGroup("front", "End")] };
    const { state, volumes } = result(block, second, plane, seam(group));
    expect(state).toBe("good");
    expect(volumes.map(([name]) => name).sort()).toEqual(["Block", "Block 2", "End"]);
    expect(relative(volumes.find(([name]) => name === "End")![1]!, 20 * 40 * 30)).toBeLessThan(1e-9);
    const apart = result(block, { ...second, at: [0, 0, 25] }, plane, seam(group));
    expect(apart.warnings.map(({ code }) => code)).toEqual(["group-apart"]);
  });

  test.each<[string, Step, string, string]>([
    [
      "stock",
      { joins: [{ group: "End", to: "a" }] },
      "joins-stock",
      "“End” cannot go to Block, which this step divides itself. Give its piece the same group instead.",
    ],
    ["no solid", { joins: [{ group: "End", to: "w" }] }, "not-a-body", "Workplane is a workplane; pick a body here."],
    [
      "two",
      {
        joins: [
          { group: "End", to: "b" },
          { group: "End", to: "d" },
        ],
      },
      "joins-twice",
      "“End” is to go to Bracket and to Block 2. Leave one out.",
    ],
    [
      "two groups",
      {
        rules: [toGroup("front", "End"), toGroup("back", "Rest")],
        joins: [
          { group: "End", to: "b" },
          { group: "Rest", to: "b" },
        ],
      },
      "joins-twice",
      "“End” and “Rest” both go to Bracket. Give their pieces one group.",
    ],
  ])("a group that cannot go to a body: %s", (_name, values, code, message) => {
    const other = { id: "d", type: "box", size: [5, 5, 5], at: [0, 0, 50] };
    const { error } = result(block, bracket, other, plane, seam({ ...end, ...values }));
    expect(error).toMatchObject({ code, message });
  });

  test("a group without a piece is told; a body that could not be built is waited for", () => {
    const idle = result(block, bracket, plane, seam({ joins: [{ group: "End", to: "b" }] }));
    expect(idle.warnings.map(({ message }) => message)).toEqual([
      "No piece is in “End”, so nothing is joined to Bracket.",
    ]);
    expect(result(block, { ...bracket, suppressed: true }, plane, seam(end)).state).toBe("waiting");
  });
});

test("a plug and its seat: a body divides, and both stay", () => {
  const plug = { id: "p", type: "cone", diameter: 30, top: 20, height: 40, at: [0, 0, -10] };
  const { built, state } = result(block, plug, seam({ cutters: ["p"] }));
  expect(state).toBe("good");
  const own = built.reports.filter(({ id }) => id.startsWith("s:"));
  expect(own).toHaveLength(2);
  expect(
    relative(
      own.reduce((sum, { volume }) => sum + volume!, 0),
      100 * 40 * 20,
    ),
  ).toBeLessThan(1e-9);
  // A frustum of a cone between its heights 10 and 30: radii 15 − 10/8 and 15 − 30/8.
  const [r, s] = [15 - 10 / 8, 15 - 30 / 8];
  expect(
    Math.min(...own.map(({ volume }) => relative(volume!, (Math.PI * 20 * (r * r + r * s + s * s)) / 3))),
  ).toBeLessThan(1e-9);
});
