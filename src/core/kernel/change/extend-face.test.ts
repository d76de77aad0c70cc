import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { boxOf } from "../facts/box";
import { distanceToPoint } from "../facts/distance";
import { pointOnFace } from "../facts/on-face";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A wave along x, 60 mm long, drawn with a spline. */
const wave = (more: Step): Step[] => [
  {
    id: "k",
    type: "sketch",
    on: "xy",
    entities: [
      ...[
        [-20, 3],
        [-10, -4],
        [0, 5],
        [10, -3],
        [20, 4],
      ].map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
      { id: "sp", type: "spline", points: ["p0", "p1", "p2", "p3", "p4"], form: "through", closed: false },
    ],
  },
  { id: "e", sketch: ["k"], as: "sheet", ...more },
];
const drawnOut = wave({ type: "extrude", extent: "symmetric", distance: 60 });
const moved: Step[] = [...drawnOut, { id: "m", type: "move", bodies: ["e"], turn: 30, axis: "x", by: [3, 4, 5] }];
const turned = wave({ type: "revolve", axis: "line", line: "l", extent: "angle", angle: 60 }).map((step) =>
  step.id === "k"
    ? {
        ...step,
        entities: [
          ...(step.entities as Step[]),
          { id: "a", type: "point", x: -30, y: 30 },
          { id: "b", type: "point", x: 30, y: 30 },
          { id: "l", type: "line", from: "a", to: "b", construction: true },
        ],
      }
    : step,
);

/** The sheet off a face, moved and run on. */
function runOn(steps: Step[], body: string, distance: number, extend: number): Shape {
  const built = buildSteps(...steps, {
    id: "o",
    type: "offset-sheet",
    faces: [{ body, face: "e:side:sp" }],
    distance,
    extend,
  });
  expect(built.step("o").error?.message ?? null).toBeNull();
  return built.bodies.find(({ id }) => id.startsWith("o:"))!.shape;
}

const reach = (shape: Shape) => boxOf(shape)!;

describe("free faces run on", () => {
  test.each([
    { name: "drawn out", steps: drawnOut, distance: 0 },
    { name: "drawn out", steps: drawnOut, distance: 2 },
    { name: "drawn out and moved", steps: moved, distance: 0 },
    { name: "drawn out and moved", steps: moved, distance: -1.5 },
    { name: "turned", steps: turned, distance: 0 },
  ])("$name, $distance mm off", ({ steps, distance }) => {
    const body = steps.at(-1)!.id === "m" ? "m" : "e";
    const [short, long] = [runOn(steps, body, distance, 0), runOn(steps, body, distance, 15)];
    // What there was lies in it.
    for (const face of facesOf(short)) expect(distanceToPoint(long, pointOnFace(face))!.gap).toBeLessThan(1e-7);
    const [was, is] = [reach(short), reach(long)];
    expect(is.max[0] - was.max[0]).toBeGreaterThan(3);
    expect(was.min[0] - is.min[0]).toBeGreaterThan(3);
    expect(is.max[2] - was.max[2]).toBeGreaterThan(3);
    expect(was.min[2] - is.min[2]).toBeGreaterThan(3);
  });

  test("a sheet that stops short in a block divides it once it is run on", () => {
    const block = { id: "block", type: "box", size: [60, 40, 80], at: [0, 0, -40] };
    const cut = (extend: number) =>
      buildSteps(
        block,
        ...drawnOut,
        { id: "o", type: "offset-sheet", faces: [{ body: "e", face: "e:side:sp" }], distance: 0, extend },
        { id: "s", type: "seam", preset: "split", stock: ["block"], cutters: ["o"], keepCutters: false },
      );
    expect(cut(0).step("s").state).not.toBe("good");
    const built = cut(30);
    expect(built.step("s")).toMatchObject({ state: "good" });
    const parts = built.reports.filter(({ id }) => id.startsWith("s:"));
    expect(parts).toHaveLength(2);
    expect(parts.reduce((sum, { volume }) => sum + volume!, 0)).toBeCloseTo(60 * 40 * 80, 1);
  });
});
