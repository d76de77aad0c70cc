import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

const point = (id: string, [x, y]: readonly number[]) => ({ id, type: "point", x, y });
const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });

/** A closed outline through places, each side drawn in the sense that `turned` says. */
function outline(places: readonly (readonly number[])[], turned: (side: number) => boolean, mark = "") {
  const id = (i: number) => `${mark}p${i % places.length}`;
  return [
    ...places.map((place, i) => point(id(i), place)),
    ...places.map((_, i) =>
      line(`${mark}l${i}`, ...((turned(i) ? [id(i + 1), id(i)] : [id(i), id(i + 1)]) as [string, string])),
    ),
  ];
}

const circle = (id: string, centre: string, radius: number) => ({ id, type: "circle", centre, radius });

/** A flat sheet of 120 by 120 in the plane of X and Y. */
const SHEET = [
  {
    id: "edge",
    type: "sketch",
    on: "zx",
    entities: [point("a", [-60, 0]), point("b", [60, 0]), line("l", "a", "b")],
  },
  { id: "flat", type: "extrude", sketch: ["edge"], as: "sheet", extent: "symmetric", distance: 120 },
];
const WHOLE = 120 * 120;

const trim = (stock: string, cutters: string[], keepSide: Record<string, string>) => ({
  id: "t",
  type: "seam",
  preset: "trim",
  stock: [stock],
  cutters,
  keepSide,
});

function left(...steps: Record<string, unknown>[]) {
  const built = buildSteps(...steps);
  const { state, error } = built.step("t");
  if (state === "failed") throw new Error(error!.message);
  const own = built.reports.filter(({ id }) => id.startsWith("t:"));
  return {
    state,
    area: own.reduce((sum, { area }) => sum + area, 0),
    volume: own.reduce((sum, one) => sum + (one.volume ?? 0), 0),
  };
}

describe("sides of a flat sheet, told at the cut", () => {
  test("101 triangles by chance, drawn in any sense: the front is the inside", () => {
    const random = new Random(101);
    for (let i = 0; i < 101; i++) {
      const places = Array.from({ length: 3 }, () => [random.nice(-50, 50, 0.5), random.nice(-50, 50, 0.5)]);
      const [[ax, ay], [bx, by], [cx, cy]] = places as [number[], number[], number[]];
      const area = Math.abs((bx! - ax!) * (cy! - ay!) - (by! - ay!) * (cx! - ax!)) / 2;
      if (area < 20) continue;
      const knife = { id: "knife", type: "sketch", entities: outline(places, () => random.chance(0.5)) };
      const side = random.pick(["front", "back"]);
      const expected = side === "front" ? area : WHOLE - area;
      expect(
        relative(left(...SHEET, knife, trim("flat", ["knife"], { knife: side })).area, expected),
        `case ${i}`,
      ).toBeLessThan(1e-6);
    }
  });

  test("with a second cutter: what both keep", () => {
    const random = new Random(7);
    for (let i = 0; i < 20; i++) {
      const at = random.nice(-30, 30, 1) + 0.25;
      const [x, y, r] = [random.nice(-20, 20, 1), random.nice(-20, 20, 1), random.nice(5, 15, 1)];
      const knife = { id: "knife", type: "sketch", entities: [point("c", [x, y]), circle("k", "c", r)] };
      const plane = { id: "plane", type: "workplane", base: "yz", offset: at };
      // A circle's segment beyond a line: r² acos(d/r) − d √(r² − d²).
      const d = Math.max(-r, Math.min(r, at - x));
      const segment = r * r * Math.acos(d / r) - d * Math.sqrt(r * r - d * d);
      const front = (60 - at) * 120 - segment;
      expect(
        relative(
          left(...SHEET, knife, plane, trim("flat", ["knife", "plane"], { knife: "back", plane: "front" })).area,
          front,
        ),
        `case ${i}`,
      ).toBeLessThan(1e-6);
    }
  });
});

describe("closed outlines and sheets, whatever way they were drawn", () => {
  const plate = { id: "plate", type: "box", size: [100, 100, 10] };
  const square = (half: number, clockwise: boolean, mark: string) => {
    const places = [
      [-half, -half],
      [half, -half],
      [half, half],
      [-half, half],
    ];
    return outline(clockwise ? [...places].reverse() : places, () => false, mark);
  };

  test.each([
    [false, false],
    [false, true],
    [true, false],
    [true, true],
  ])("an outline in an outline (%s, %s): the inside is what lies between", (outer, inner) => {
    const knife = { id: "knife", type: "sketch", entities: [...square(40, outer, "o"), ...square(20, inner, "i")] };
    expect(left(plate, knife, trim("plate", ["knife"], { knife: "front" })).volume).toBeCloseTo((6400 - 1600) * 10, 5);
    expect(left(plate, knife, trim("plate", ["knife"], { knife: "back" })).volume).toBeCloseTo((10_000 - 4800) * 10, 5);
  });

  test("two outlines that overlap: the inside is what lies in either", () => {
    const knife = {
      id: "knife",
      type: "sketch",
      entities: [point("a", [-8, 0]), point("b", [8, 0]), circle("ca", "a", 20), circle("cb", "b", 20)],
    };
    // Two circles of radius 20, 16 apart: each less the lens they share.
    const lens = 2 * 400 * Math.acos(8 / 20) - 8 * Math.sqrt(4 * 400 - 16 * 16);
    const both = 2 * Math.PI * 400 - lens;
    expect(left(plate, knife, trim("plate", ["knife"], { knife: "back" })).volume).toBeCloseTo((10_000 - both) * 10, 4);
    expect(left(plate, knife, trim("plate", ["knife"], { knife: "front" })).volume).toBeCloseTo(both * 10, 4);
  });

  test.each([true, false])("a sheet drawn out of a closed outline (clockwise %s)", (clockwise) => {
    const sketch = { id: "sk", type: "sketch", entities: square(30, clockwise, "s") };
    const sheet = { id: "wall", type: "extrude", sketch: ["sk"], as: "sheet", extent: "symmetric", distance: 60 };
    expect(left(plate, sketch, sheet, trim("plate", ["wall"], { wall: "front" })).volume).toBeCloseTo(36_000, 5);
    expect(left(plate, sketch, sheet, trim("plate", ["wall"], { wall: "back" })).volume).toBeCloseTo(64_000, 5);
  });

  test.each([true, false])(
    "a closed sheet turned round an axis (the other way %s): its front is its outside",
    (other) => {
      const places = [
        [10, -3],
        [30, -3],
        [30, 13],
        [10, 13],
      ];
      const sketch = {
        id: "sk",
        type: "sketch",
        on: "zx",
        entities: outline(other ? [...places].reverse() : places, () => false),
      };
      const sheet = { id: "ring", type: "revolve", sketch: ["sk"], as: "sheet", axis: "y" };
      const inside = Math.PI * (900 - 100) * 10;
      expect(left(plate, sketch, sheet, trim("plate", ["ring"], { ring: "back" })).volume).toBeCloseTo(inside, 4);
      expect(left(plate, sketch, sheet, trim("plate", ["ring"], { ring: "front" })).volume).toBeCloseTo(
        100_000 - inside,
        4,
      );
    },
  );

  test("lines that follow each other have one front, however each was drawn", () => {
    const places = [
      [-60, -10],
      [-10, 5],
      [15, -5],
      [60, 12],
    ];
    const chain = (turned: boolean[]) => [
      ...places.map((place, i) => point(`p${i}`, place)),
      ...turned.map((back, i) =>
        line(`l${i}`, ...((back ? [`p${i + 1}`, `p${i}`] : [`p${i}`, `p${i + 1}`]) as [string, string])),
      ),
    ];
    const kept = (turned: boolean[]) => {
      const knife = { id: "knife", type: "sketch", entities: chain(turned) };
      return left(plate, knife, trim("plate", ["knife"], { knife: "front" })).volume;
    };
    const straight = kept([false, false, false]);
    expect(straight).toBeGreaterThan(10_000);
    expect(kept([false, true, false])).toBeCloseTo(straight, 4);
    expect(kept([false, true, true])).toBeCloseTo(straight, 4);
    // The first line says which way they all run.
    expect(kept([true, false, true])).toBeCloseTo(100_000 - straight, 4);
  });
});

test("a closed outline turned as a sheet is closed: its flat sides are there, too", () => {
  const places = [
    [10, -3],
    [30, -3],
    [30, 13],
    [10, 13],
  ];
  const sketch = { id: "sk", type: "sketch", on: "zx", entities: outline(places, () => false) };
  for (const more of [{}, { extent: "angle", angle: 120 }]) {
    const built = buildSteps(sketch, { id: "ring", type: "revolve", sketch: ["sk"], as: "sheet", axis: "y", ...more });
    const [report] = built.reports;
    const whole = 2 * Math.PI * (10 + 30) * 16 + 2 * Math.PI * (900 - 100);
    expect(report!.faces).toBe(4);
    expect(relative(report!.area, whole * ("angle" in more ? 120 / 360 : 1))).toBeLessThan(1e-9);
    expect(report!.closed).toBe(!("angle" in more));
  }
});
