import { beforeAll, expect, test } from "vitest";
import { buildSteps, relative } from "../../testing/harness";
import { allEdgeFacts } from "..";
import { loadNodeKernel } from "../library/node";

beforeAll(loadNodeKernel);

/** The length of a cubic Bézier curve by very short chords. */
function chords([a, b, c, d]: readonly (readonly [number, number])[]): number {
  const at = (t: number, k: 0 | 1) =>
    (1 - t) ** 3 * a![k] + 3 * (1 - t) ** 2 * t * b![k] + 3 * (1 - t) * t ** 2 * c![k] + t ** 3 * d![k];
  const n = 400_000;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += Math.hypot(at((i + 1) / n, 0) - at(i / n, 0), at((i + 1) / n, 1) - at(i / n, 1));
  return sum;
}

test.each([
  [
    "a gentle bow",
    [
      [0, 0],
      [10, 8],
      [22, 9],
      [33, 0],
    ],
    1,
  ],
  [
    "one that turns sharply",
    [
      [0, 0],
      [22, -0.33],
      [44, -0.66],
      [33, 2],
    ],
    1,
  ],
  [
    "one with a near cusp",
    [
      [0, 0],
      [30, 12],
      [4, 12],
      [36, 0],
    ],
    1,
  ],
  [
    "a very large one",
    [
      [0, 0],
      [22, -0.33],
      [44, -0.66],
      [33, 2],
    ],
    2000,
  ],
] as [string, [number, number][], number][])(
  "the length of an edge that is a spline, as short chords add up: %s",
  (_what, poles, size) => {
    const points = poles.map(([x, y]) => [x * size, y * size] as [number, number]);
    const { bodies, step } = buildSteps(
      {
        id: "k",
        type: "sketch",
        entities: [
          ...points.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
          { id: "s", type: "spline", form: "control", points: ["p0", "p1", "p2", "p3"], closed: false },
        ],
      },
      { id: "x", type: "extrude", sketch: ["k"], as: "sheet", distance: 5 },
    );
    expect(step("x").error ?? null).toBeNull();
    const splines = allEdgeFacts(bodies[0]!.shape).filter((facts) => facts?.kind === "spline");
    expect(splines).toHaveLength(2);
    for (const facts of splines) expect(relative(facts!.length, chords(points))).toBeLessThan(1e-8);
  },
);
