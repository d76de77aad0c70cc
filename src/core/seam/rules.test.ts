import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";
import { Random } from "../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const plane = (id: string, base: string, offset: number) => ({ id, type: "workplane", base, offset });
const block = { id: "b", type: "box", size: [60, 60, 60], at: [0, 0, -30] };
const planes = (x = [-10, 10], y = [-10, 10], z = [-10, 10]) => [
  ...x.map((offset, i) => plane(`x${i}`, "yz", offset)),
  ...y.map((offset, i) => plane(`y${i}`, "zx", offset)),
  ...z.map((offset, i) => plane(`z${i}`, "xy", offset)),
];
const ids = ["x0", "x1", "y0", "y1", "z0", "z1"];
const cut = (more: Step) => ({ id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ids, ...more });
const rule = (where: Step, fate: string, group?: string) => ({ where, fate, ...(group ? { group } : {}) });
const middle = { sides: { x0: "front", x1: "back", y0: "front", y1: "back", z0: "front", z1: "back" } };

function made(...steps: Step[]) {
  const built = buildSteps(...steps);
  const { error, warnings } = built.step("s");
  expect(error?.message).toBeUndefined();
  const bodies = built.reports.filter(({ id }) => id.startsWith("s:"));
  return { warnings, volumes: bodies.map(({ volume }) => volume!).sort((a, b) => a - b), built };
}

describe("27 pieces of a block", () => {
  test("scrapped by a side, by two, by all six", () => {
    expect(made(block, ...planes(), cut({ rules: [rule({ sides: { x0: "back" } }, "scrap")] })).volumes).toHaveLength(
      18,
    );
    expect(
      made(block, ...planes(), cut({ rules: [rule({ sides: { x0: "back", y1: "front" } }, "scrap")] })).volumes,
    ).toHaveLength(24);
    expect(made(block, ...planes(), cut({ rules: [rule(middle, "scrap")] })).volumes).toHaveLength(26);
  });

  test("by size, and the last of several rules holds", () => {
    const sizes = planes([-5, 10], [-5, 10], [-5, 10]);
    // Edges of 25, 15 and 20: 27 volumes.
    const all = [25, 15, 20].flatMap((x) => [25, 15, 20].flatMap((y) => [25, 15, 20].map((z) => x * y * z)));
    const small = all.filter((volume) => volume < 6000).sort((a, b) => a - b);
    const rest = all.filter((volume) => volume >= 6000).sort((a, b) => a - b);
    expect(made(block, ...sizes, cut({ rules: [rule({ atLeast: 6000 }, "scrap")] })).volumes).toEqual(
      small.map((volume) => expect.closeTo(volume, 6)),
    );
    expect(made(block, ...sizes, cut({ rules: [rule({}, "scrap"), rule({ atLeast: 6000 }, "keep")] })).volumes).toEqual(
      rest.map((volume) => expect.closeTo(volume, 6)),
    );
  });

  test("joined as a group: a cross of seven is one body", () => {
    const arm = (open: string[]) => ({
      sides: Object.fromEntries(Object.entries(middle.sides).filter(([id]) => !open.includes(id[0]!))),
    });
    const cross = ["x", "y", "z"].map((axis) => rule(arm([axis]), "group", "Cross"));
    const { volumes } = made(block, ...planes(), cut({ rules: [rule({}, "scrap"), ...cross] }));
    expect(volumes).toEqual([expect.closeTo(7 * 8000, 6)]);
  });

  test("a single decision goes over a rule", () => {
    const steps = (fates: unknown[]) => [
      block,
      plane("x0", "yz", 0),
      { ...cut({ rules: [rule({}, "scrap")], fates }), cutters: ["x0"] },
    ];
    // Written by hand: as the one piece that is so.
    expect(made(...steps([{ piece: { kind: "b:block x0:plane=front" }, fate: "keep" }])).volumes).toHaveLength(1);
  });
});

describe("pieces by what they have in common", () => {
  test("two outlines, one body: what is in both extrusions stays", () => {
    const bar = (id: string, axis: string) => ({ id, type: "cylinder", diameter: 20, height: 80, axis, at: [0, 0, 0] });
    const crossing = [
      { ...bar("u", "x"), at: [-40, 0, 0] },
      { ...bar("v", "y"), at: [0, -40, 0] },
    ];
    const seam = {
      id: "s",
      type: "seam",
      preset: "split",
      stock: ["u"],
      cutters: ["v"],
      rules: [rule({}, "scrap"), rule({ sides: { v: "in" } }, "keep")],
    };
    // Steinmetz: 16 r³ / 3.
    expect(made(...crossing, seam).volumes).toEqual([expect.closeTo((16 * 1000) / 3, 3)]);
    const all = {
      ...seam,
      preset: "union",
      stock: ["u", "v"],
      cutters: [],
      rules: [rule({ sides: { u: "in", v: "in" } }, "scrap")],
    };
    const { volumes } = made(...crossing, all);
    expect(volumes.reduce((sum, volume) => sum + volume, 0)).toBeCloseTo(
      2 * Math.PI * 100 * 80 - (2 * 16 * 1000) / 3,
      3,
    );
  });

  test("by the stock that they are part of", () => {
    const other = { id: "c", type: "box", size: [20, 20, 20], at: [60, 0, -10] };
    const seam = {
      id: "s",
      type: "seam",
      preset: "split",
      stock: ["b", "c"],
      cutters: ["z0"],
      rules: [rule({ stock: "c" }, "scrap")],
    };
    const { volumes } = made(block, other, plane("z0", "xy", 0), seam);
    expect(volumes).toHaveLength(2);
  });
});

test("rules hold whatever is edited: 40 jobs by chance, every piece by where its middle is", () => {
  const random = new Random(40);
  for (let i = 0; i < 40; i++) {
    const cuts = () => [random.nice(-28, -2, 1), random.nice(0, 28, 1)];
    const [x, y, z] = [cuts(), cuts(), cuts()];
    const sides = Object.fromEntries(
      ids.filter(() => random.chance(0.4)).map((id) => [id, random.pick(["front", "back"] as const)]),
    );
    const rules = [rule({}, "scrap"), rule({ sides }, "keep")];
    const built = buildSteps(block, ...planes(x, y, z), cut({ rules }));
    const places = {
      x0: [0, x[0]!],
      x1: [0, x[1]!],
      y0: [1, y[0]!],
      y1: [1, y[1]!],
      z0: [2, z[0]!],
      z1: [2, z[1]!],
    } as const;
    const edges = [x, y, z].map((own) => [-30, ...own, 30]);
    let expected = 0;
    for (const i of [0, 1, 2])
      for (const j of [0, 1, 2])
        for (const k of [0, 1, 2]) {
          const at = [i, j, k].map((c, axis) => (edges[axis]![c]! + edges[axis]![c + 1]!) / 2);
          const here = Object.entries(sides).every(([id, side]) => {
            const [axis, offset] = places[id as keyof typeof places];
            return (at[axis]! > offset ? "front" : "back") === side;
          });
          if (here) expected++;
        }
    if (expected === 0) expect(built.step("s").error?.code).toBe("nothing-left");
    expect(built.reports.filter(({ id }) => id.startsWith("s:"))).toHaveLength(expected);
  }
});

describe("rules that say nothing", () => {
  test("of what is no cutter: refused, with the rule left out as a repair", () => {
    const built = buildSteps(block, ...planes(), cut({ rules: [rule({ sides: { q: "back" } }, "scrap")] }));
    const { error } = built.step("s");
    expect(error?.code).toBe("rule-of-nothing");
    expect(error!.message).toMatch(/^Rule 1 speaks of “q”/);
    expect(error!.repair!.set).toEqual({ rules: [] });
  });

  test("that fit no piece: told, with leaving it out as a way on", () => {
    const { warnings, volumes } = made(block, ...planes(), cut({ rules: [rule({ under: 1 }, "scrap")] }));
    expect(volumes).toHaveLength(27);
    expect(warnings.map(({ code }) => code)).toEqual(["rule-idle"]);
  });

  test("a rule over everything leaves nothing: refused as scrap of all is", () => {
    const { error } = buildSteps(block, ...planes(), cut({ rules: [rule({}, "scrap")] })).step("s");
    expect(error?.code).toBe("nothing-left");
  });
});
