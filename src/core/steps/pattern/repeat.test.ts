import { beforeAll, describe, expect, test } from "vitest";
import { ResultCache } from "../../evaluate";
import { fromStored, toStored } from "../../evaluate/result";
import { surfaceCentre, turnBetween } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, buildSteps, jobOf, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const circleAt = (id: string, x: number, y: number, radius: number, more: Step = {}): Step => {
  const draft = new SketchMaker();
  draft.circle("c", [x, y], radius);
  return { id, type: "sketch", entities: draft.entities, ...more };
};
const plate = { id: "a", type: "box", size: [100, 60, 10] };
const hole = circleAt("k", -40, -20, 3);
const cut = { id: "e", type: "extrude", sketch: ["k"], into: "cut", targets: ["a"], extent: "through" };
const bore = Math.PI * 9 * 10;

describe("steps repeated", () => {
  test("a cut in rows: as many holes in the one body", () => {
    const built = buildSteps(plate, hole, cut, {
      id: "p",
      type: "pattern",
      what: "steps",
      steps: ["e"],
      count: 5,
      spacing: 20,
      rows: 2,
      rowSpacing: 40,
    });
    expect(built.step("p")).toMatchObject({ state: "good" });
    expect(built.reports).toHaveLength(1);
    expect(built.reports[0]).toMatchObject({ genus: 10, valid: true, name: "Block" });
    expect(built.reports[0]!.volume! / (60000 - 10 * bore)).toBeCloseTo(1, 9);
  });

  test("what was joined, in a ring; and mirrored", () => {
    const post = circleAt("q", 15, 0, 4, { on: "workplane", plane: ["w"] });
    const joined = { id: "j", type: "extrude", sketch: ["q"], distance: 12, into: "join", targets: ["a"] };
    const built = buildSteps(plate, { id: "w", type: "workplane", offset: 10 }, post, joined, {
      id: "p",
      type: "pattern",
      what: "steps",
      kind: "ring",
      axis: "z",
      steps: ["j"],
      count: 4,
    });
    expect(built.reports[0]!.volume! / (60000 + 4 * Math.PI * 16 * 12)).toBeCloseTo(1, 9);
    const image = buildSteps(plate, hole, cut, { id: "m", type: "mirror", what: "steps", steps: ["e"], about: "yz" });
    expect(image.reports[0]).toMatchObject({ genus: 2, valid: true });
    expect(image.reports[0]!.volume! / (60000 - 2 * bore)).toBeCloseTo(1, 9);
  });

  test("they follow the step: its size, and what it cuts into", () => {
    const pattern = { id: "p", type: "pattern", what: "steps", steps: ["e"], count: 3, spacing: 20 };
    const wide = buildSteps({ ...plate, size: [100, 60, 20] }, circleAt("k", -40, -20, 5), cut, pattern);
    expect(wide.reports[0]!.volume! / (120000 - 3 * Math.PI * 25 * 20)).toBeCloseTo(1, 9);
    const rounded = {
      id: "f",
      type: "fillet",
      edges: [{ body: "e", print: { kind: "line", at: [50, 30, 5] } }],
      radius: 2,
    };
    const between = buildSteps(plate, hole, cut, rounded, pattern);
    expect(between.step("p").state).toBe("good");
    expect(between.reports[0]!.volume! / (60000 - 3 * bore - (1 - Math.PI / 4) * 4 * 10)).toBeCloseTo(1, 9);
  });

  test("a changed step is repeated anew, an unchanged one not; a stored result can be repeated", () => {
    const cache = new ResultCache();
    const steps = (radius: number) => [
      plate,
      circleAt("k", -40, -20, radius),
      cut,
      { id: "p", type: "pattern", what: "steps", steps: ["e"], count: 3, spacing: 20 },
    ];
    const one = build(jobOf(steps(3)), { cache });
    const two = build(jobOf(steps(4)), { cache });
    expect(two.step("p").key).not.toBe(one.step("p").key);
    expect(build(jobOf(steps(3)), { cache }).step("p").key).toBe(one.step("p").key);
    const stored = toStored(one.results.get(one.step("e").key!)!);
    const again = build(jobOf(steps(3)), { stored: (key) => (key === stored.key ? fromStored(stored) : undefined) });
    expect(again.reports[0]!.volume! / (60000 - 3 * bore)).toBeCloseTo(1, 9);
  });

  test.each([
    ["none", { steps: [] }, "Pick the steps to repeat."],
    [
      "one that puts nothing into a body",
      { steps: ["k"] },
      "Step 2 puts nothing into another body. Only what joins, cuts, keeps within or divides can be repeated; repeat bodies as bodies.",
    ],
    [
      "too many",
      { steps: ["e"], count: 100_000 },
      "That makes 100,000 bodies; a pattern takes at most 500. Make it smaller.",
    ],
  ])("%s: refused", (_name, more, message) => {
    expect(
      buildSteps(plate, hole, cut, { id: "p", type: "pattern", what: "steps", count: 3, ...more }).step("p").error!
        .message,
    ).toBe(message);
  });
});

describe("along a path", () => {
  const pin = { id: "a", type: "cylinder", diameter: 4, height: 10 };
  const path = (draw: (d: SketchMaker) => void): Step => {
    const draft = new SketchMaker();
    draw(draft);
    return { id: "k", type: "sketch", entities: draft.entities };
  };
  const centres = (steps: Step[]) =>
    buildSteps(...steps)
      .bodies.map(({ shape }) => surfaceCentre(shape))
      .map(([x, y]) => [x, y]);

  test("a straight one and a bend: at equal distances along it", () => {
    const bend = path((d) => {
      d.line("l", [0, 0], [40, 0]);
      d.arc("b", [40, 20], "l_b", [60, 20]);
    });
    const found = centres([
      pin,
      bend,
      { id: "p", type: "pattern", kind: "path", bodies: ["a"], path: ["k"], count: 6 },
    ]);
    const total = 40 + 10 * Math.PI;
    found.forEach(([x, y], i) => {
      const run = (total * i) / 5;
      const angle = Math.max(0, (run - 40) / 20);
      const at = run <= 40 ? [run, 0] : [40 + 20 * Math.sin(angle), 20 - 20 * Math.cos(angle)];
      expect(x).toBeCloseTo(at[0]!, 7);
      expect(y).toBeCloseTo(at[1]!, 7);
    });
  });

  test("round a closed one: evenly, turning with it or standing alike", () => {
    const ring = path((d) => d.circle("c", [0, 0], 30));
    const bar = { id: "a", type: "box", size: [10, 2, 4], at: [30, 0, 0] };
    const boxes = (turn: boolean) =>
      buildSteps(bar, ring, {
        id: "p",
        type: "pattern",
        kind: "path",
        bodies: ["a"],
        path: ["k"],
        count: 4,
        turn,
      }).reports.map(({ box }) => [0, 1].map((k) => Math.round(box!.max[k]! - box!.min[k]!)));
    expect(boxes(true)).toEqual([
      [10, 2],
      [2, 10],
      [10, 2],
      [2, 10],
    ]);
    expect(boxes(false)).toEqual([
      [10, 2],
      [10, 2],
      [10, 2],
      [10, 2],
    ]);
  });

  test("along a free curve the lengths between neighbours are equal", () => {
    const wave = path((d) => {
      for (const [i, at] of [
        [0, 0],
        [20, 15],
        [45, -10],
        [70, 5],
      ].entries())
        d.point(`w${i}`, at[0]!, at[1]!);
      d.entities.push({
        id: "s",
        type: "spline",
        form: "through",
        points: ["w0", "w1", "w2", "w3"],
        closed: false,
        construction: false,
      });
    });
    const found = centres([
      pin,
      wave,
      { id: "p", type: "pattern", kind: "path", bodies: ["a"], path: ["k"], count: 41 },
    ]);
    const gaps = found.slice(1).map(([x, y], i) => Math.hypot(x! - found[i]![0]!, y! - found[i]![1]!));
    expect(found[40]![0]).toBeCloseTo(70, 7);
    // Chords of equal arcs: shorter than the arc by its length cubed over 24 times the radius squared.
    expect(Math.max(...gaps) / Math.min(...gaps)).toBeLessThan(1.01);
  });

  test("along edges of a body, cut as a step", () => {
    const rail = { id: "rail", type: "box", size: [40, 2, 2], at: [0, -60, 0] };
    const built = buildSteps(rail, plate, circleAt("k", 0, -20, 3), cut, {
      id: "p",
      type: "pattern",
      what: "steps",
      kind: "path",
      steps: ["e"],
      along: "edges",
      edges: [{ body: "rail", edge: "rail:side:y-|rail:side:z+" }],
      count: 3,
    });
    expect(built.step("p").state).toBe("good");
    expect(built.reports.at(-1)).toMatchObject({ genus: 3, valid: true });
    expect(built.reports.at(-1)!.volume! / (60000 - 3 * bore)).toBeCloseTo(1, 9);
  });
});

test("the turn between two frames: its axis and angle, half turns too", () => {
  const x = [1, 0, 0] as const;
  const y = [0, 1, 0] as const;
  const z = [0, 0, 1] as const;
  expect(turnBetween([x, y, z], [x, y, z]).angle).toBe(0);
  const quarter = turnBetween([x, y, z], [y, [-1, 0, 0], z]);
  expect(quarter.angle).toBeCloseTo(Math.PI / 2, 12);
  expect(quarter.axis[2]).toBeCloseTo(1, 12);
  const half = turnBetween([x, y, z], [[-1, 0, 0], [0, -1, 0], z]);
  expect(half.angle).toBeCloseTo(Math.PI, 12);
  expect(Math.abs(half.axis[2])).toBeCloseTo(1, 12);
});

test("volume of a patterned sum", () => {
  const built = buildSteps(plate, hole, cut, {
    id: "p",
    type: "pattern",
    bodies: ["e"],
    count: 2,
    axis: "z",
    spacing: 30,
  });
  expect(volumeOfStep(built, "p") / (60000 - bore)).toBeCloseTo(1, 9);
});
