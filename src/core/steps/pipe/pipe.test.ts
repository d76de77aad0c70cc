import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const piped = (draft: SketchMaker, more: Step = {}, ...before: Step[]) =>
  buildSteps(
    ...before,
    { id: "k", type: "sketch", entities: draft.entities },
    { id: "x", type: "pipe", path: ["k"], ...more },
  );
const elbow = () => {
  const d = new SketchMaker();
  d.line("l", [0, 0], [50, 0]);
  d.line("m", "l_b", [50, 40]);
  return d;
};
const bent = () => {
  const d = new SketchMaker();
  d.line("l", [0, 0], [50, 0]);
  d.arc("b", [50, 20], "l_b", [70, 20]);
  d.line("m", "b_b", [70, 60]);
  return d;
};
const volume = (built: ReturnType<typeof buildSteps>) => {
  expect(built.step("x").error ?? null).toBeNull();
  expect(built.reports.at(-1)).toMatchObject({ valid: true, closed: true });
  return volumeOfStep(built, "x");
};

describe("by closed form", () => {
  test("a mitred corner: the section times the length of the path, round and square", () => {
    expect(relative(volume(piped(elbow(), { size: 6 })), Math.PI * 9 * 90)).toBeLessThan(1e-9);
    expect(relative(volume(piped(elbow(), { size: 6, section: "square" })), 36 * 90)).toBeLessThan(1e-9);
  });

  test("a bend: Pappus, and its faces are named by the curves", () => {
    const built = piped(bent(), { size: 6 });
    expect(relative(volume(built), Math.PI * 9 * (90 + 10 * Math.PI))).toBeLessThan(1e-9);
    expect(built.bodies[0]!.faces.toSorted()).toEqual(["x:cap:base", "x:cap:end", "x:side:b", "x:side:l", "x:side:m"]);
  });

  test("a tube: the ring of its wall times the length", () => {
    const built = piped(bent(), { size: 20, wall: 2 });
    expect(relative(volume(built), Math.PI * (100 - 64) * (90 + 10 * Math.PI))).toBeLessThan(1e-8);
    expect(built.reports[0]).toMatchObject({ name: "Tube", genus: 1 });
    expect(built.bodies[0]!.faces).toEqual(expect.arrayContaining(["x:side:b", "x:inside:side:b", "x:cap:end"]));
  });

  test("a closed path: a torus, and a square frame", () => {
    const ring = new SketchMaker();
    ring.circle("c", [0, 0], 30);
    expect(relative(volume(piped(ring, { size: 10 })), 2 * Math.PI ** 2 * 30 * 25)).toBeLessThan(1e-9);
    const frame = new SketchMaker();
    const corners: [number, number][] = [
      [0, 0],
      [60, 0],
      [60, 40],
      [0, 40],
    ];
    corners.forEach((corner, i) => {
      frame.point(`p${i}`, ...corner);
    });
    corners.forEach((_, i) => {
      frame.line(`l${i}`, `p${i}`, `p${(i + 1) % 4}`);
    });
    expect(relative(volume(piped(frame, { size: 8, section: "square" })), 64 * 200)).toBeLessThan(1e-9);
  });

  test("a round corner adds the wedge that turns at its outside", () => {
    const mitred = volume(piped(elbow(), { size: 6 }));
    const round = volume(piped(elbow(), { size: 6, corners: "round" }));
    expect(round).toBeLessThan(mitred);
    expect(round).toBeGreaterThan(0.99 * mitred);
  });

  test("cut into a block, as a channel", () => {
    const block: Step = { id: "a", type: "box", size: [100, 100, 4], at: [20, 20, -2] };
    const line = new SketchMaker();
    line.line("l", [-40, 0], [80, 0]);
    const built = piped(line, { size: 4, section: "square", into: "cut", targets: ["a"] }, block);
    expect(relative(volume(built), 100 * 100 * 4 - 4 * 4 * 100)).toBeLessThan(1e-9);
  });
});

/** A drawing of lines, each from where it is said to where it is said. */
const lines =
  (...list: [string | [number, number], [number, number]][]) =>
  (d: SketchMaker) => {
    list.forEach(([from, to], i) => {
      d.line(`l${i}`, from, to);
    });
  };

test.each([
  [
    "a fork",
    lines(
      [
        [0, 0],
        [9, 0],
      ],
      ["l0_b", [9, 9]],
      ["l0_b", [20, 0]],
    ),
    {},
    "is not one path",
  ],
  [
    "two parts",
    lines(
      [
        [0, 0],
        [9, 0],
      ],
      [
        [30, 0],
        [40, 0],
      ],
    ),
    {},
    "is not one path",
  ],
  ["a bend too tight", (d: SketchMaker) => d.arc("a", [0, 0], [8, 0], [0, 8]), { size: 16 }, "needs more than 8 mm"],
  [
    "a wall too thick",
    lines([
      [0, 0],
      [9, 0],
    ]),
    { size: 4, wall: 2 },
    "Two walls of 2 mm fill",
  ],
  ["no path", (d: SketchMaker) => d.point("p", 0, 0), {}, "holds no curves"],
  [
    "a path that crosses itself",
    lines(
      [
        [0, 0],
        [60, 0],
      ],
      ["l0_b", [60, 4]],
      ["l1_b", [0, 4]],
    ),
    { size: 10 },
    "runs into itself",
  ],
] as [string, (d: SketchMaker) => unknown, Step, string][])("%s: one sentence", (_name, make, more, words) => {
  const d = new SketchMaker();
  make(d);
  expect(piped(d, more).step("x").error?.message).toContain(words);
});
