import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps } from "../../../testing/harness";
import { allEdgeFacts } from "../../facts/edges";
import { allFaceFacts } from "../../facts/face-facts";
import { volumeOf } from "../../facts/mass";
import { unsoundness } from "../../facts/soundness";
import { loadNodeKernel } from "../../library/node";
import { facesOf, type Shape } from "../../library/topology";
import type { Vec3 } from "../../space/vectors";
import { moveFaces } from "./move-faces";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** The last body of a job. @param worked how some of its edges are worked, and which. @param after what is done with it then. */
function bodyOf(
  steps: Step[],
  worked?: Step,
  which: (at: Vec3, kind: string) => boolean = () => true,
  ...after: Step[]
): Shape {
  const built = buildSteps(...steps);
  const plain = built.bodies.at(-1)!;
  if (!worked) return plain.shape;
  const edges = allEdgeFacts(plain.shape).flatMap((edge) =>
    edge && which(edge.at, edge.kind)
      ? [{ body: plain.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }]
      : [],
  );
  const done = buildSteps(...steps, { id: "w", ...worked, edges }, ...after);
  expect(done.step("w").state).not.toBe("failed");
  return done.bodies.at(-1)!.shape;
}

const all = (shape: Shape, by: number) => facesOf(shape).map(() => by);
/** Faces that look one way moved. */
const towards = (shape: Shape, way: Vec3, by: number) =>
  allFaceFacts(shape).map(({ kind, direction }) =>
    kind === "plane" && direction!.every((value, i) => Math.abs(value - way[i]!) < 1e-9) ? by : 0,
  );
const ofKind = (shape: Shape, kind: string, by: number) =>
  allFaceFacts(shape).map((face) => (face.kind === kind ? by : 0));

function moved(shape: Shape, amounts: readonly number[]): Shape {
  const made = moveFaces(shape, amounts);
  expect(made).not.toBeNull();
  expect(unsoundness(made!, "solid")).toBeNull();
  expect(facesOf(made!)).toHaveLength(facesOf(shape).length);
  return made!;
}

const box = (size: Vec3): Step => ({ id: "e", type: "box", size });

describe("against closed forms", () => {
  test.each([0.5, -0.5, 2, -1.9])("a box with all its edges rounded, all moved by %f mm", (by) => {
    const round = (r: number) => {
      const [x, y, z] = [40 - 6, 30 - 6, 20 - 6] as const;
      return x * y * z + 2 * r * (x * y + y * z + z * x) + Math.PI * r * r * (x + y + z) + (4 / 3) * Math.PI * r ** 3;
    };
    const shape = bodyOf([box([40, 30, 20])], { type: "fillet", radius: 3 });
    expect(volumeOf(shape) / round(3)).toBeCloseTo(1, 9);
    expect(volumeOf(moved(shape, all(shape, by))) / round(3 + by)).toBeCloseTo(1, 12);
  });

  /** What two roundings that meet in a mitre take off a corner: slice by slice, each as wide as the arc lies back. */
  const mitred = (a: number, b: number, c: number, r: number) =>
    a * b * c - (a + b) * (1 - Math.PI / 4) * r * r + (5 / 3 - Math.PI / 2) * r ** 3;

  test.each(["yz", "xy", "zx"])("a drafted and rounded body, mirrored in %s: as the one that is not", (about) => {
    const steps = [{ id: "e", type: "cone", diameter: 40, top: 30, height: 25 }];
    const shape = bodyOf(steps, { type: "fillet", radius: 2 }, (at, kind) => kind === "circle" && at[2] > 1);
    const mirrored = bodyOf(steps, { type: "fillet", radius: 2 }, (at, kind) => kind === "circle" && at[2] > 1, {
      id: "m",
      type: "mirror",
      bodies: ["w"],
      about,
      keep: false,
    });
    for (const by of [0.7, -0.7])
      expect(volumeOf(moved(mirrored, all(mirrored, by))) / volumeOf(moved(shape, all(shape, by)))).toBeCloseTo(1, 11);
  });

  test.each([1, -1, 0.01])("roundings that meet in a mitre, an ellipse, moved by %f mm", (by) => {
    const shape = bodyOf(
      [box([40, 30, 20])],
      { type: "fillet", radius: 4 },
      // Of the four edges at the top two that meet.
      ([x, y, z]) =>
        z === Math.max(...allEdgeFacts(bodyOf([box([40, 30, 20])])).map((edge) => edge?.at[2] ?? 0)) &&
        (x > 19 || y > 14),
    );
    expect(facesOf(shape)).toHaveLength(8);
    expect(volumeOf(shape) / mitred(40, 30, 20, 4)).toBeCloseTo(1, 9);
    const made = moved(shape, all(shape, by));
    expect(volumeOf(made) / mitred(40 + 2 * by, 30 + 2 * by, 20 + 2 * by, 4 + by)).toBeCloseTo(1, 11);
  });

  test.each([2, -3])("the flat end of a cone by %f mm: a frustum", (by) => {
    const shape = bodyOf([{ id: "e", type: "cone", diameter: 40, top: 20, height: 30 }]);
    const made = moved(shape, towards(shape, [0, 0, 1], by));
    const [r, top] = [20, 10 - by / 3];
    expect(volumeOf(made)).toBeCloseTo((Math.PI / 3) * (30 + by) * (r * r + r * top + top * top), 8);
  });

  test("a cone to its tip, its side by 1 mm: the tip goes up by 1 / sin of half its angle", () => {
    const shape = bodyOf([{ id: "e", type: "cone", diameter: 40, top: 0, height: 30 }]);
    const made = moved(shape, ofKind(shape, "cone", 1));
    const half = Math.atan2(20, 30);
    const height = 30 + 1 / Math.sin(half);
    expect(volumeOf(made)).toBeCloseTo((Math.PI / 3) * (height * Math.tan(half)) ** 2 * height, 8);
  });

  test.each([1.5, -1.5])("a bar that is cut aslant, its side by %f mm: the ellipse grows with it", (by) => {
    const shape = bodyOf([
      { id: "e", type: "cylinder", diameter: 20, height: 60 },
      { id: "w", type: "workplane", base: "normal", normal: [0, 3, 10], through: [0, 0, 30] },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["e:cylinder"],
        cutters: ["w:plane"],
        keepSide: { "w:plane": "back" },
      },
    ]);
    const high = volumeOf(shape) / (Math.PI * 100);
    expect(allEdgeFacts(shape).some((edge) => edge?.kind === "ellipse")).toBe(true);
    expect(volumeOf(moved(shape, ofKind(shape, "cylinder", by)))).toBeCloseTo(Math.PI * (10 + by) ** 2 * high, 7);
  });

  test("a ring's own face, and the wall of a bore", () => {
    const ring = bodyOf([{ id: "e", type: "torus", diameter: 60, section: 10 }]);
    expect(volumeOf(moved(ring, [2]))).toBeCloseTo(2 * Math.PI ** 2 * 30 * 49, 7);
    const tube = bodyOf([
      { id: "e", type: "box", size: [40, 40, 20] },
      { id: "c", type: "cylinder", diameter: 10, height: 40, at: [0, 0, -10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["e"], cutters: ["c"], keepCutters: false },
    ]);
    expect(volumeOf(moved(tube, ofKind(tube, "cylinder", -1)))).toBeCloseTo(40 * 40 * 20 - Math.PI * 36 * 20, 7);
  });
});

describe("another case, or other faces would meet: nothing, so that another way is taken", () => {
  const boss = () =>
    bodyOf([
      { id: "e", type: "box", size: [40, 40, 10] },
      { id: "b", type: "cylinder", diameter: 20, height: 30 },
      { id: "u", type: "seam", preset: "union", stock: ["e", "b"] },
    ]);
  const pocket = () =>
    bodyOf([
      { id: "e", type: "box", size: [40, 40, 20] },
      { id: "c", type: "cylinder", diameter: 20, height: 40, at: [0, 0, 5] },
      { id: "s", type: "seam", preset: "subtract", stock: ["e"], cutters: ["c"], keepCutters: false },
    ]);
  const floor = (shape: Shape, by: number) =>
    allFaceFacts(shape).map(({ kind, area }) => (kind === "plane" && Math.abs(area - Math.PI * 100) < 1e-6 ? by : 0));
  const hollowBall = () =>
    bodyOf([
      { id: "e", type: "sphere", diameter: 40 },
      { id: "h", type: "shell", body: ["e"], thickness: 10, open: [] },
    ]);
  const within = (shape: Shape, by: number) => allFaceFacts(shape).map(({ area }) => (area < 2000 ? by : 0));

  test.each<[string, () => Shape, (shape: Shape) => readonly number[]]>([
    ["a block thinner than nothing", () => bodyOf([box([40, 30, 20])]), (s) => towards(s, [0, 0, 1], -21)],
    ["a block of no thickness", () => bodyOf([box([40, 30, 20])]), (s) => towards(s, [0, 0, 1], -20)],
    ["a rounding that is used up", () => bodyOf([box([40, 30, 20])], { type: "fillet", radius: 3 }), (s) => all(s, -3)],
    [
      "a rounding without its neighbours",
      () => bodyOf([box([40, 30, 20])], { type: "fillet", radius: 3 }),
      (s) => ofKind(s, "cylinder", 0.5),
    ],
    [
      "a flat face without the roundings about it",
      () => bodyOf([box([40, 30, 20])], { type: "fillet", radius: 3 }),
      (s) => towards(s, [0, 0, 1], -1),
    ],
    [
      "corners of four faces that come apart",
      () => bodyOf([box([40, 30, 20])], { type: "chamfer", distance: 3 }),
      (s) => all(s, 0.5),
    ],
    ["a boss wider than what it stands on", boss, (s) => ofKind(s, "cylinder", 11)],
    ["a boss sunk below what it stands on", boss, (s) => floor(s, -25)],
    ["a pocket through its floor", pocket, (s) => floor(s, -16)],
    ["a pocket's floor out of its mouth", pocket, (s) => floor(s, 16)],
    ["a pocket through the sides", pocket, (s) => ofKind(s, "cylinder", -11)],
    ["a void larger than the ball around it", hollowBall, (s) => within(s, -30)],
  ])("%s", (_, body, amounts) => {
    const shape = body();
    const by = amounts(shape);
    expect(by.some((amount) => amount !== 0)).toBe(true);
    expect(moveFaces(shape, by)).toBeNull();
  });

  test("and up to there it is done", () => {
    const [plate, cup, ball] = [boss(), pocket(), hollowBall()];
    expect(volumeOf(moved(plate, ofKind(plate, "cylinder", 9.9)))).toBeGreaterThan(volumeOf(plate));
    expect(volumeOf(moved(cup, floor(cup, -4.9)))).toBeLessThan(volumeOf(cup));
    expect(volumeOf(moved(ball, within(ball, -9)))).toBeCloseTo((4 / 3) * Math.PI * (8000 - 6859), 6);
  });
});
