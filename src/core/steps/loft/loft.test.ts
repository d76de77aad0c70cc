import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";
import { Draft } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
type Corner = [number, number];
/** A sketch at a height, of one closed outline through corners; of a lone point for one. */
function at(height: number, ...corners: Corner[]): Step[] {
  const d = new Draft();
  corners.forEach((corner, i) => {
    d.point(`p${i}`, ...corner);
  });
  if (corners.length > 1)
    corners.forEach((_, i) => {
      d.line(`l${i}`, `p${i}`, `p${(i + 1) % corners.length}`);
    });
  const id = `h${height}`;
  return [
    { id: `w${height}`, type: "workplane", base: "xy", offset: height },
    { id, type: "sketch", on: "workplane", plane: [`w${height}`], entities: d.entities },
  ];
}
const square = (half: number): Corner[] => [
  [-half, -half],
  [half, -half],
  [half, half],
  [-half, half],
];
function lofted(sections: Step[][], more: Step = {}, before: Step[] = []) {
  const names = sections.map((steps) => steps[1]!.id);
  return buildSteps(...before, ...sections.flat(), { id: "x", type: "loft", sections: names, ...more });
}
/** The prismatoid rule: a ruled body between parallel polygons holds h (A₁ + 4 Aₘ + A₂) / 6. */
const prismatoid = (h: number, a: number, m: number, b: number) => (h / 6) * (a + 4 * m + b);

describe("straight, by the prismatoid rule", () => {
  test("between squares, a frustum", () => {
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))]);
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), prismatoid(30, 1600, 900, 400))).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, faces: 6 });
    expect(built.bodies[0]!.faces.toSorted()).toEqual([
      "x:cap:base",
      "x:cap:end",
      "x:side:h0:l0",
      "x:side:h0:l1",
      "x:side:h0:l2",
      "x:side:h0:l3",
    ]);
  });

  test("between a square and a turned one of another size, twisted sides and all", () => {
    const turned: Corner[] = [
      [0, -12],
      [12, 0],
      [0, 12],
      [-12, 0],
    ];
    const built = lofted([at(0, ...square(20)), at(30, ...turned)]);
    expect(built.step("x").error ?? null).toBeNull();
    // Half-way lies the octagon-free mean of matched corners: a square through their middles.
    const middle: Corner[] = square(20).map(([x, y], i): Corner => [(x + turned[i]![0]) / 2, (y + turned[i]![1]) / 2]);
    const area = (corners: Corner[]) =>
      Math.abs(
        corners.reduce((sum, [x, y], i) => {
          const [u, v] = corners[(i + 1) % corners.length]!;
          return sum + (x * v - u * y) / 2;
        }, 0),
      );
    expect(relative(volumeOfStep(built, "x"), prismatoid(30, 1600, area(middle), 288))).toBeLessThan(1e-6);
  });

  test("out to a point, a pyramid; through three, two frustums", () => {
    const pyramid = lofted([at(0, ...square(20)), at(30, [5, 5])]);
    expect(pyramid.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(pyramid, "x"), (1600 * 30) / 3)).toBeLessThan(1e-9);
    const three = lofted([at(0, ...square(20)), at(30, ...square(10)), at(40, ...square(20))]);
    expect(
      relative(volumeOfStep(three, "x"), prismatoid(30, 1600, 900, 400) + prismatoid(10, 400, 900, 1600)),
    ).toBeLessThan(1e-9);
  });

  test("from a triangle to a square: different numbers of corners", () => {
    const built = lofted([at(0, [-20, -15], [20, -15], [0, 20]), at(30, ...square(10))]);
    expect(built.step("x").error ?? null).toBeNull();
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, genus: 0 });
    // Whatever the matching, it lies between the two prisms and within their hull.
    const volume = volumeOfStep(built, "x");
    expect(volume).toBeGreaterThan(400 * 30);
    expect(volume).toBeLessThan(700 * 30);
  });
});

describe("smooth, and as a sheet, and into others", () => {
  test("smooth through equal circles is their cylinder", () => {
    const circle = (height: number): Step[] => {
      const d = new Draft();
      d.circle("c", [0, 0], 10);
      const [plane, sketch] = at(height, [0, 0]);
      return [plane!, { ...sketch, entities: d.entities }];
    };
    const built = lofted([circle(0), circle(20), circle(50)], { surface: "smooth" });
    expect(built.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(built, "x"), Math.PI * 100 * 50)).toBeLessThan(1e-6);
  });

  test("a sheet has no caps", () => {
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))], { as: "sheet" });
    expect(built.bodies[0]!.kind).toBe("sheet");
    expect(relative(built.reports[0]!.area, 4 * ((40 + 20) / 2) * Math.hypot(30, 10))).toBeLessThan(1e-9);
  });

  test("cut out of a block", () => {
    const block = { id: "a", type: "box", size: [60, 60, 30] };
    const built = lofted([at(0, ...square(20)), at(30, ...square(10))], { into: "cut", targets: ["a"] }, [block]);
    expect(relative(volumeOfStep(built, "x"), 60 * 60 * 30 - prismatoid(30, 1600, 900, 400))).toBeLessThan(1e-9);
  });
});

test.each([
  ["one section", [at(0, ...square(20))], "needs two sections or more"],
  ["two points", [at(0, [0, 0]), at(10, [0, 0])], "between points alone"],
  ["a point amid", [at(0, ...square(9)), at(10, [0, 0]), at(20, ...square(9))], "can only stand at an end"],
] as [string, Step[][], string][])("%s: one sentence", (_name, sections, words) => {
  expect(lofted(sections).step("x").error?.message).toContain(words);
});
