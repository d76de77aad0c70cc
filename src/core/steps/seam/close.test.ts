import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const drawn = (draw: (draft: SketchMaker) => void, id = "k"): Step => {
  const draft = new SketchMaker();
  draw(draft);
  return { id, type: "sketch", entities: draft.entities };
};
/** A tube of no thickness, open at both ends: radius 10, from z = −40 to 40. */
const tube: Step[] = [
  drawn((d) => d.circle("c", [0, 0], 10)),
  { id: "a", type: "extrude", name: "Skin", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 80 },
];
/** A ball of no thickness: half a circle turned about the Y axis of its plane. */
const ball: Step[] = [
  drawn((d) => d.arc("c", [0, 0], [0, -20], [0, 20])),
  { id: "a", type: "revolve", name: "Skin", sketch: ["k"], as: "sheet", axis: "y" },
];
const seam = (more: Step): Step => ({ id: "s", type: "seam", stock: ["a"], close: true, ...more });
const plane = (id: string, normal: number[], through: number[] = [0, 0, 0]): Step => ({
  id,
  type: "workplane",
  base: "normal",
  through,
  normal,
});

function result(...steps: Step[]) {
  const built = buildSteps(...steps);
  const { state, error, warnings } = built.step("s");
  const own = built.reports.filter(({ id }) => id.startsWith("s:"));
  return {
    built,
    state,
    error,
    warnings,
    own,
    kinds: own.map(({ kind }) => kind),
    volume: own.reduce((sum, { volume }) => sum + (volume ?? 0), 0),
    area: own.reduce((sum, { area }) => sum + area, 0),
  };
}

describe("a skin divided and closed", () => {
  test("a closed one: two solids, for planes by chance", () => {
    const whole = (4 / 3) * Math.PI * 8000;
    const random = new Random(11);
    for (let i = 0; i < 6; i++) {
      const h = random.between(-15, 15);
      const normal = [random.between(-1, 1), random.between(-1, 1), random.between(0.1, 1)];
      const size = Math.hypot(...normal);
      const { state, kinds, own, volume } = result(
        ...ball,
        plane(
          "w",
          normal,
          normal.map((x) => (x / size) * h),
        ),
        seam({ cutters: ["w"] }),
      );
      expect(state).toBe("good");
      expect(kinds).toEqual(["solid", "solid"]);
      expect(relative(volume, whole)).toBeLessThan(1e-9);
      const cap = (d: number) => (Math.PI * d * d * (60 - d)) / 3;
      const sizes = own.map((one) => one.volume!).sort((a, b) => a - b);
      expect(relative(sizes[0]!, Math.min(cap(20 - h), cap(20 + h)))).toBeLessThan(1e-9);
      expect(own.every(({ valid, closed }) => valid && closed)).toBe(true);
    }
  });

  test("an open one is closed at the cut, and stays open where it was", () => {
    const { state, kinds, own } = result(...tube, plane("w", [0, 0.4, 1]), seam({ cutters: ["w"] }));
    expect(state).toBe("good");
    expect(kinds).toEqual(["sheet", "sheet"]);
    // The half of the tube and an ellipse with half axes of 10 and 10 times the length of the normal.
    const wall = Math.PI * 100 * Math.hypot(0.4, 1);
    for (const { area, valid, openEdges } of own) {
      expect(relative(area, 2 * Math.PI * 10 * 40 + wall)).toBeLessThan(1e-6);
      expect([valid, openEdges.length]).toEqual([true, 1]);
    }
  });

  test("cut at both ends it is a solid: between two planes, and a wedge of two that meet in it", () => {
    const two = result(
      ...tube,
      plane("u", [0, 0, 1], [0, 0, -20]),
      plane("w", [0.3, 0, 1], [0, 0, 25]),
      seam({ preset: "trim", cutters: ["u", "w"], keepSide: { u: "front", w: "back" } }),
    );
    expect(two.state).toBe("good");
    expect(two.kinds).toEqual(["solid"]);
    expect(relative(two.volume, Math.PI * 100 * 45)).toBeLessThan(1e-9);
    // Two planes that meet in a line through the axis: what lies above both.
    const wedge = result(
      ...tube,
      plane("u", [1, 0, 1]),
      plane("w", [-1, 0, 1]),
      plane("t", [0, 0, 1], [0, 0, 30]),
      seam({ preset: "trim", cutters: ["u", "w", "t"], keepSide: { u: "front", w: "front", t: "back" } }),
    );
    expect(wedge.state).toBe("good");
    expect(wedge.kinds).toEqual(["solid"]);
    // Above |x| up to 30: 30 times the circle less the mean of |x| over it, 4r³/3.
    expect(relative(wedge.volume, Math.PI * 100 * 30 - (4 / 3) * 1000)).toBeLessThan(1e-9);
  });

  test("the sense in which it was drawn does not matter", () => {
    for (const [from, to] of [
      [-20, 20],
      [20, -20],
    ]) {
      const turned = [drawn((d) => d.arc("c", [0, 0], [0, Math.min(from!, to!)], [0, Math.max(from!, to!)])), ball[1]!];
      const { kinds, volume } = result(...turned, plane("w", [0, 0, from!]), seam({ preset: "trim", cutters: ["w"] }));
      expect(kinds).toEqual(["solid"]);
      expect(relative(volume, (2 / 3) * Math.PI * 8000)).toBeLessThan(1e-9);
    }
  });
});

describe("carved through, with walls", () => {
  const bar = (more: Step = {}): Step => ({
    id: "b",
    type: "cylinder",
    diameter: 10,
    height: 100,
    at: [0, 0, -50],
    ...more,
  });
  const carve = seam({ preset: "subtract", cutters: ["b"] });

  test("a closed skin: a bore through it", () => {
    const { state, kinds, own, volume } = result(...ball, bar(), carve);
    expect(state).toBe("good");
    expect(kinds).toEqual(["solid"]);
    expect(own[0]!.genus).toBe(1);
    // The napkin ring: a ball less a bore holds what a ball of the bore's height does.
    const half = Math.sqrt(400 - 25);
    expect(relative(volume, (4 / 3) * Math.PI * half ** 3)).toBeLessThan(1e-9);
  });

  test("an open tube, crossed: the bore's wall is within, and its ends stay open", () => {
    const { state, own, area, warnings } = result(...tube, bar({ axis: "x", at: [-50, 0, 0] }), carve);
    expect([state, warnings]).toEqual(["good", []]);
    expect(own).toHaveLength(1);
    expect(own[0]).toMatchObject({ kind: "sheet", valid: true });
    expect(own[0]!.openEdges).toHaveLength(2);
    // What the bore takes of the tube, twice 4·R·∫asin; and its wall within, 4 r ∫ √(R² − r² sin²) over a quarter turn, twice.
    const steps = 20000;
    let [lost, wall] = [0, 0];
    for (let i = 0; i < steps; i++) {
      const t = ((i + 0.5) / steps) * 2 * Math.PI;
      wall += 5 * 2 * Math.sqrt(100 - 25 * Math.sin(t) ** 2) * ((2 * Math.PI) / steps);
      const v = Math.asin(0.5) * ((2 * (i + 0.5)) / steps - 1);
      lost += 2 * Math.sqrt(25 - 100 * Math.sin(v) ** 2) * 10 * ((2 * Math.asin(0.5)) / steps);
    }
    expect(relative(area, 2 * Math.PI * 10 * 80 - 2 * lost + wall)).toBeLessThan(1e-6);
  });

  test("a pocket: the bottom comes with its wall", () => {
    const { state, kinds, volume } = result(...ball, bar({ height: 50, at: [0, 0, 5] }), carve);
    expect(state).toBe("good");
    expect(kinds).toEqual(["solid"]);
    const top = Math.sqrt(400 - 25);
    const cap = (Math.PI * (20 - top) ** 2 * (60 - (20 - top))) / 3;
    expect(relative(volume, (4 / 3) * Math.PI * 8000 - Math.PI * 25 * (top - 5) - cap)).toBeLessThan(1e-9);
    const open = result(...tube, bar({ axis: "x", at: [4, 0, 0], height: 30 }), carve);
    expect([open.state, open.warnings]).toEqual(["good", []]);
    expect(open.own).toHaveLength(1);
    expect(open.own[0]!.openEdges).toHaveLength(2);
  });

  test("a thin wall of two skins: the opening's wall joins them", () => {
    const wall: Step[] = [
      drawn((d) => {
        d.circle("c", [0, 0], 10);
        d.circle("e", [0, 0], 8);
      }),
      { id: "a", type: "extrude", name: "Wall", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 80 },
    ];
    const { state, own, warnings } = result(...wall, bar({ axis: "x", at: [0, 0, 0], height: 30 }), carve);
    expect([state, warnings]).toEqual(["good", []]);
    expect(own).toHaveLength(1);
    expect(own[0]).toMatchObject({ kind: "sheet", valid: true });
    expect(own[0]!.openEdges).toHaveLength(4);
    // Right through: two openings, each with a wall of its own.
    const through = result(...wall, bar({ axis: "x", at: [-50, 0, 0] }), carve);
    expect([through.state, through.warnings]).toEqual(["good", []]);
    expect(through.own).toHaveLength(1);
    expect(through.own[0]!.openEdges).toHaveLength(4);
    const both = [1, -1].map(
      (way) => result(...wall, bar({ axis: "x", at: [way * 15 - 15, 0, 0], height: 30 }), carve).area,
    );
    const whole = 2 * Math.PI * 18 * 80;
    expect(relative(through.area, both[0]! + both[1]! - whole)).toBeLessThan(1e-9);
  });

  test("two bars that cross in it; what each leaves within the other is no wall", () => {
    const across = bar({ id: "c", axis: "x", at: [-50, 0, 0] });
    const { state, own, volume } = result(...ball, bar(), across, seam({ preset: "subtract", cutters: ["b", "c"] }));
    expect(state).toBe("good");
    expect(own).toHaveLength(1);
    const half = Math.sqrt(400 - 25);
    const ring = (4 / 3) * Math.PI * half ** 3;
    const bore = (4 / 3) * Math.PI * 8000 - ring;
    // Two equal bars have 16r³/3 in common (Archimedes).
    expect(relative(volume, (4 / 3) * Math.PI * 8000 - 2 * bore + (16 * 125) / 3)).toBeLessThan(1e-8);
    const open = result(
      ...tube,
      bar({ axis: "x", at: [-50, 0, 0] }),
      bar({ id: "c", axis: "y", at: [0, -50, 3] }),
      seam({ preset: "subtract", cutters: ["b", "c"] }),
    );
    expect(open.state).toBe("good");
    expect(open.own[0]).toMatchObject({ kind: "sheet", valid: true });
    expect(open.own[0]!.openEdges).toHaveLength(2);
  });

  test("a sheet that is cut along an edge of it cannot be closed there, and says where", () => {
    const strip = [
      drawn((d) => d.line("l", [-30, 0], [30, 0])),
      { id: "a", type: "extrude", name: "Skin", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 40 },
    ];
    const { state, warnings, own } = result(...strip, plane("w", [1, 0, 0.2]), seam({ cutters: ["w"] }));
    expect(state).toBe("warned");
    expect(own).toHaveLength(2);
    expect(warnings[0]!.message).toBe(
      "Skin stays open where it was cut, along 1 edge: nothing of a cutter begins and ends there all round.",
    );
    expect(Math.abs(warnings[0]!.at![0]! + 0.2 * warnings[0]!.at![2]!)).toBeLessThan(1e-6);
  });
});

test("done again elsewhere, the copies are closed, too", () => {
  const carve = seam({ preset: "subtract", cutters: ["b"] });
  const bar = { id: "b", type: "cylinder", diameter: 6, height: 60, at: [-30, 0, 20], axis: "x" };
  const { built, warnings } = result(...tube, bar, carve, {
    id: "p",
    type: "pattern",
    what: "steps",
    steps: ["s"],
    axis: "z",
    count: 3,
    spacing: -20,
  });
  expect([built.step("p").state, warnings]).toEqual(["good", []]);
  const own = built.reports.filter(({ id }) => id.startsWith("p:"));
  expect(own).toHaveLength(1);
  expect(own[0]!.openEdges).toHaveLength(2);
});
