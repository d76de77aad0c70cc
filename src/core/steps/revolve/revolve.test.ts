import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const drawn = (draft: SketchMaker, more: Step = {}): Step => ({
  id: "k",
  type: "sketch",
  entities: draft.entities,
  constraints: draft.constraints,
  dimensions: draft.dimensions,
  ...more,
});
/** A closed outline through corners. */
function outline(...corners: [number, number][]): SketchMaker {
  const d = new SketchMaker();
  corners.forEach((corner, i) => {
    d.point(`p${i}`, ...corner);
  });
  corners.forEach((_, i) => {
    d.line(`l${i}`, `p${i}`, `p${(i + 1) % corners.length}`);
  });
  return d;
}
const turned = (draft: SketchMaker, more: Step = {}) =>
  buildSteps(drawn(draft), { id: "r", type: "revolve", sketch: ["k"], ...more });
const ring = () => {
  const d = new SketchMaker();
  d.circle("c", [30, 0], 8);
  return d;
};

describe("Pappus's theorems", () => {
  test("a circle turned is a torus: 2π² R r², area 4π² R r", () => {
    const built = turned(ring());
    expect(relative(volumeOfStep(built, "r"), 2 * Math.PI ** 2 * 30 * 64)).toBeLessThan(1e-9);
    expect(relative(built.reports[0]!.area, 4 * Math.PI ** 2 * 30 * 8)).toBeLessThan(1e-9);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, genus: 1 });
  });

  test.each([
    ["by an angle", { extent: "angle", angle: 75 }],
    ["the other way", { extent: "angle", angle: -75 }],
    ["both ways alike", { extent: "symmetric", angle: 75 }],
  ])("part of a turn, %s", (_name, more) => {
    const built = turned(outline([10, 0], [25, 0], [25, 12], [10, 6]), more);
    // Area and centroid of the trapezium by the shoelace formula.
    const [area, centroid] = [135, 5 * 24 + 75];
    const mean = (15 * 6 * 17.5 + 0.5 * 15 * 6 * 20) / 135;
    expect(centroid).toBeGreaterThan(0);
    expect(relative(volumeOfStep(built, "r"), ((75 * Math.PI) / 180) * mean * area)).toBeLessThan(1e-9);
    expect(built.reports[0]!.valid).toBe(true);
  });

  test("both ways alike lies evenly about the plane", () => {
    const { box } = turned(outline([10, 0], [25, 0], [25, 12], [10, 12]), { extent: "symmetric", angle: 60 })
      .reports[0]!;
    expect(box!.min[2]).toBeCloseTo(-12.5, 6);
    expect(box!.max[2]).toBeCloseTo(12.5, 6);
  });
});

describe("bodies that everybody knows", () => {
  test("a cone, a frustum and a ball, with an edge on the axis", () => {
    const cone = turned(outline([0, 0], [9, 0], [0, 20]));
    expect(relative(volumeOfStep(cone, "r"), (Math.PI * 81 * 20) / 3)).toBeLessThan(1e-9);
    const frustum = turned(outline([0, 0], [9, 0], [4, 20], [0, 20]));
    expect(relative(volumeOfStep(frustum, "r"), (Math.PI * 20 * (81 + 36 + 16)) / 3)).toBeLessThan(1e-9);
    const half = new SketchMaker();
    half.arc("a", [0, 0], [0, -7], [0, 7]);
    half.line("l", "a_a", "a_b");
    const ball = turned(half);
    expect(relative(volumeOfStep(ball, "r"), (4 * Math.PI * 343) / 3)).toBeLessThan(1e-9);
    for (const built of [cone, frustum, ball]) expect(built.reports[0]).toMatchObject({ valid: true, genus: 0 });
  });

  test("its faces are named by the curves; caps only where the turn is not a whole one", () => {
    const whole = turned(outline([10, 0], [20, 0], [20, 5], [10, 5]));
    expect(whole.bodies[0]!.faces.toSorted()).toEqual(["r:side:l0", "r:side:l1", "r:side:l2", "r:side:l3"]);
    const part = turned(outline([10, 0], [20, 0], [20, 5], [10, 5]), { extent: "angle" });
    expect(part.bodies[0]!.faces).toEqual(expect.arrayContaining(["r:cap:base", "r:cap:end", "r:side:l0"]));
  });

  test("an open curve turned is a sheet: the skin of a cone", () => {
    const d = new SketchMaker();
    d.line("l", [0, 12], [5, 0]);
    const built = turned(d, { as: "sheet" });
    expect(built.bodies[0]!.kind).toBe("sheet");
    expect(relative(built.reports[0]!.area, Math.PI * 5 * 13)).toBeLessThan(1e-9);
  });
});

describe("about what", () => {
  const square = () => outline([10, 0], [20, 0], [20, 5], [10, 5]);

  test("a line of the sketch, which may only help to draw; an edge of a body; the X axis", () => {
    const d = square();
    d.line("axis", [5, -10], [5, 10]);
    Object.assign(d.entities.at(-1)!, { construction: true });
    expect(relative(volumeOfStep(turned(d, { axis: "line", line: "axis" }), "r"), 2 * Math.PI * 10 * 50)).toBeLessThan(
      1e-9,
    );
    const built = buildSteps({ id: "a", type: "box", size: [4, 4, 4], anchor: "corner" }, drawn(square()), {
      id: "r",
      type: "revolve",
      sketch: ["k"],
      axis: "edge",
      edge: [{ body: "a:block", print: { at: [4, 2, 0] } }],
    });
    expect(relative(volumeOfStep(built, "r"), 2 * Math.PI * 11 * 50)).toBeLessThan(1e-9);
    expect(relative(volumeOfStep(turned(square(), { axis: "x" }), "r"), Math.PI * 25 * 10)).toBeLessThan(1e-9);
  });

  test.each([
    ["through the outline", outline([-5, 0], [20, 0], [20, 5]), {}, "The axis goes through the outline of Sketch"],
    ["no line chosen", square(), { axis: "line" }, "Pick the line of the sketch"],
    ["no edge picked", square(), { axis: "edge" }, "Pick the straight edge"],
    ["no angle", square(), { extent: "angle", angle: 0 }, "The angle is nothing"],
    [
      "nothing enclosed",
      (() => {
        const d = new SketchMaker();
        d.line("l", [5, 0], [9, 0]);
        return d;
      })(),
      {},
      "encloses nothing",
    ],
  ] as [string, SketchMaker, Step, string][])("%s is refused in one sentence", (_name, draft, more, words) => {
    expect(turned(draft, more).step("r").error?.message).toContain(words);
  });

  test("an edge that lies elsewhere is not in the plane", () => {
    const built = buildSteps({ id: "a", type: "box", size: [4, 4, 4], anchor: "corner" }, drawn(square()), {
      id: "r",
      type: "revolve",
      sketch: ["k"],
      axis: "edge",
      edge: [{ body: "a:block", print: { at: [4, 2, 4] } }],
    });
    expect(built.step("r").error?.message).toContain("does not lie in the plane");
  });
});

describe("with other bodies, only with those that are named", () => {
  const block: Step = { id: "a", type: "box", size: [80, 80, 10], at: [0, 0, -5] };
  const other: Step = { id: "b", type: "box", size: [80, 10, 10], at: [0, 38, -5] };
  const groove = (into: string) =>
    buildSteps(block, other, drawn(ring(), { on: "zx" }), {
      id: "r",
      type: "revolve",
      sketch: ["k"],
      axis: "y",
      into,
      targets: ["a"],
    });
  // Drawn upright and turned about the upright axis: a ring that lies in the block.
  const torus = 2 * Math.PI ** 2 * 30 * 64;
  const whole = 80 * 80 * 10;

  test("cut, common and joined add up", () => {
    const [cut, common, joined] = ["cut", "common", "join"].map((into) => groove(into));
    expect(cut!.step("r").error ?? null).toBeNull();
    const [vCut, vCommon, vJoined] = [cut!, common!, joined!].map((built) => volumeOfStep(built, "r"));
    expect(relative(vCut! + vCommon!, whole)).toBeLessThan(1e-7);
    expect(relative(vJoined!, whole + torus - vCommon!)).toBeLessThan(1e-7);
    // The other bar, which the ring goes through as well, stays as it was.
    expect(volumeOfStep(cut!, "b")).toBeCloseTo(80 * 10 * 10, 6);
    expect(cut!.bodies.some(({ id }) => id.startsWith("a:"))).toBe(false);
  });

  test("what misses its target says by how much", () => {
    const built = buildSteps({ ...block, at: [0, 0, 200] }, drawn(ring()), {
      id: "r",
      type: "revolve",
      sketch: ["k"],
      into: "cut",
      targets: ["a"],
    });
    expect(built.step("r").error?.message).toMatch(/^The cut misses Block by /);
    expect(
      buildSteps(drawn(ring()), { id: "r", type: "revolve", sketch: ["k"], into: "join" }).step("r").error?.message,
    ).toBe("Pick the bodies to join it to.");
  });
});
