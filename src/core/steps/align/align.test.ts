import { beforeAll, describe, expect, test } from "vitest";
import { measureBetween } from "../../check";
import { loadNodeKernel } from "../../kernel/library/node";
import { type Built, buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const floor = { id: "f", type: "box", size: [100, 80, 10], at: [0, 0, -10] };
const block = { id: "b", type: "box", size: [20, 30, 40], at: [200, 50, 70] };
const tilted = { id: "t", type: "move", bodies: ["b"], turn: 37, axis: "x", about: [200, 50, 70] };
const face = (body: string, side: string) => [{ body, face: `${body}:side:${side}` }];
const box = (built: Built, id: string) => built.reports.find((report) => report.id.startsWith(`${id}:`))!.box!;
const aligned = (more: object) =>
  buildSteps(floor, block, tilted, { id: "a", type: "align", face: face("b", "z-"), onto: face("f", "z+"), ...more });

describe("flat on flat", () => {
  test("a tilted block stands on the floor, over where it was", () => {
    const built = aligned({});
    expect(built.step("a").state).toBe("good");
    const { min, max } = box(built, "b");
    expect(min[2]).toBeCloseTo(0, 9);
    expect(max[2]).toBeCloseTo(40, 9);
    expect((min[0] + max[0]) / 2).toBeCloseTo(200, 9);
    expect(built.reports[1]!.volume).toBeCloseTo(24000, 6);
    expect(built.bodies[1]!.id).toBe("b:block");
  });

  test("with a gap, middle over middle, and turned", () => {
    const { min, max } = box(aligned({ gap: "1/8 in", middle: true, spin: 90 }), "b");
    expect(min[2]).toBeCloseTo(3.175, 9);
    expect([min[0] + max[0], min[1] + max[1]].map((sum) => Math.round(sum * 1e6) / 1e6 + 0)).toEqual([0, 0]);
    expect(max[0] - min[0]).toBeCloseTo(30, 6);
    expect(max[1] - min[1]).toBeCloseTo(20, 6);
  });

  test("flush: it looks the same way, and lies under", () => {
    const { max } = box(aligned({ how: "flush", face: face("b", "z+") }), "b");
    expect(max[2]).toBeCloseTo(0, 9);
  });

  test("others come along, keeping their place beside it", () => {
    const mate = { id: "m", type: "box", size: [5, 5, 5], at: [230, 50, 70] };
    const gap = (built: Built) => {
      const [one, two] = ["b", "m"].map((id) => built.bodies.find((body) => body.id.startsWith(`${id}:`))!);
      return measureBetween({ body: one! }, { body: two! }).nearest!.mm;
    };
    const before = buildSteps(floor, block, tilted, mate);
    const after = buildSteps(floor, block, tilted, mate, {
      id: "a",
      type: "align",
      face: face("b", "z-"),
      onto: face("f", "z+"),
      others: ["m"],
    });
    expect(gap(after)).toBeCloseTo(gap(before), 9);
    expect(box(after, "m").min[2]).not.toBeCloseTo(70, 3);
  });
});

describe("axis on axis", () => {
  const bar = { id: "p", type: "cylinder", diameter: 8, height: 50, at: [30, 20, 5], axis: "x" };
  const ring = { id: "r", type: "cylinder", diameter: 20, height: 10, at: [-40, -40, 60] };
  const sides = { face: [{ body: "p", face: "p:side" }], onto: [{ body: "r", face: "r:side" }] };

  test("a lying bar comes to stand in a standing one, no further along than it has to", () => {
    const built = buildSteps(bar, ring, { id: "a", type: "align", ...sides });
    const [one, two] = ["p", "r"].map((id) => built.bodies.find((body) => body.id.startsWith(`${id}:`))!);
    const side = (body: typeof one, name: string) => ({
      body: body!,
      part: { kind: "face" as const, place: body!.faces.indexOf(name) },
    });
    const found = measureBetween(side(one, "p:side"), side(two, "r:side"));
    expect(found.apart).toMatchObject({ what: "axes", mm: expect.closeTo(0, 9) });
    expect(found.angle).toBeCloseTo(0, 9);
  });

  test("middle over middle", () => {
    const built = buildSteps(bar, ring, { id: "a", type: "align", ...sides, middle: true });
    const { min, max } = box(built, "p");
    expect((min[2] + max[2]) / 2).toBeCloseTo(65, 9);
    expect((min[0] + max[0]) / 2).toBeCloseTo(-40, 9);
  });
});

test.each([
  [
    "unlike faces",
    { onto: [{ body: "c", face: "c:side" }] },
    "Both faces have to be flat, or both cylindrical. Pick two of a kind.",
  ],
  ["a body onto itself", { onto: face("b", "x+") }, "A body cannot be put onto itself. Pick a face of another."],
  ["no face", { face: [] }, "Pick a face of the body to move."],
  ["no goal", { onto: [] }, "Pick the face that it goes to."],
])("%s: refused", (_name, more, message) => {
  const pin = { id: "c", type: "cylinder", diameter: 8, height: 50 };
  const step = { id: "a", type: "align", face: face("b", "z-"), onto: face("f", "z+"), ...more };
  expect(buildSteps(floor, block, pin, step).step("a").error!.message).toBe(message);
});
