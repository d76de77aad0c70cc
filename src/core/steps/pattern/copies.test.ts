import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, jobOf, messageOf, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [20, 10, 6], at: [20, 0, 0] };
const after = (...steps: Step[]) => buildSteps(block, ...steps);
const boxes = (built: ReturnType<typeof buildSteps>) => built.reports.map(({ box }) => box!);

describe("mirror", () => {
  test.each([
    ["in YZ", { about: "yz" }, [-30, -10]],
    ["in a face of it", { about: "face", face: [{ body: "a:block", face: "a:side:x+" }] }, [30, 50]],
    ["in a workplane", { about: "workplane", plane: ["w"] }, [50, 70]],
  ] as [string, Step, [number, number]][])(
    "%s: sound, right side out, where it should be",
    (_name, more, [low, high]) => {
      const built = after(
        { id: "w", type: "workplane", base: "yz", offset: 40 },
        { id: "m", type: "mirror", bodies: ["a"], ...more },
      );
      const image = built.reports.find(({ id }) => id.startsWith("m:"))!;
      expect(image).toMatchObject({ valid: true, closed: true });
      expect(image.volume).toBeCloseTo(1200, 9);
      expect(image.box!.min[0]).toBeCloseTo(low, 5);
      expect(image.box!.max[0]).toBeCloseTo(high, 5);
      expect(built.reports).toHaveLength(2);
    },
  );

  test("joined with its image it is one body, with the faces across the plane made one", () => {
    const built = after({
      id: "m",
      type: "mirror",
      bodies: ["a"],
      about: "face",
      face: [{ body: "a:block", face: "a:side:x+" }],
      join: true,
    });
    expect(built.reports).toHaveLength(1);
    expect(built.reports[0]).toMatchObject({ faces: 6, valid: true });
    expect(built.reports[0]!.volume).toBeCloseTo(2400, 9);
  });

  test("apart from the plane they stay two, and it says so; without the original only the image stays", () => {
    const apart = after({ id: "m", type: "mirror", bodies: ["a"], join: true });
    expect(apart.step("m").warnings[0]!.message).toBe("The copies of Block do not all touch, so they stay 2 bodies.");
    expect(apart.reports).toHaveLength(2);
    expect(after({ id: "m", type: "mirror", bodies: ["a"], keep: false }).reports.map(({ id }) => id)).toEqual([
      "m:image:a:block",
    ]);
  });

  test("a later step finds a face of the image by its name", () => {
    const built = after(
      { id: "m", type: "mirror", bodies: ["a"] },
      { id: "f", type: "fillet", edges: [{ body: "m:image:a:block", print: { at: [-20, -5, 6] } }], radius: 1 },
    );
    expect(built.step("f").error ?? null).toBeNull();
    expect(built.bodies.find(({ id }) => id === "m:image:a:block")!.faces).toContain("m:image:a:side:z+");
  });
});

describe("pattern", () => {
  test("rows: every copy where it belongs", () => {
    const built = after({
      id: "p",
      type: "pattern",
      bodies: ["a"],
      count: 3,
      spacing: 25,
      rows: 2,
      rowSpacing: "1/2 in",
    });
    expect(built.reports).toHaveLength(6);
    const corners = boxes(built).map(({ min }) => [Math.round(min[0] * 1e4) / 1e4, Math.round(min[1] * 1e4) / 1e4]);
    expect(corners.sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!)).toEqual([
      [10, -5],
      [10, 7.7],
      [35, -5],
      [35, 7.7],
      [60, -5],
      [60, 7.7],
    ]);
  });

  test.each([
    [360, 6, 60],
    [180, 4, 60],
    [-90, 3, -45],
  ])("a ring of %d° with %d: each turned by %d° more", (angle, count, step) => {
    const built = after({ id: "p", type: "pattern", kind: "ring", bodies: ["a"], axis: "z", count, angle });
    expect(built.reports).toHaveLength(count);
    const places = built.reports.map(({ box: found }) => {
      const [x, y] = [0, 1].map((k) => (found!.min[k]! + found!.max[k]!) / 2);
      return (Math.atan2(y!, x!) * 180) / Math.PI;
    });
    expect(places.map((place) => Math.round((((place - 0) % 360) + 360) % 360)).sort((a, b) => a - b)).toEqual(
      Array.from({ length: count }, (_, i) => (((step * i) % 360) + 360) % 360).sort((a, b) => a - b),
    );
  });

  test("joined: a comb of bars that touch is one body", () => {
    const built = after({ id: "p", type: "pattern", bodies: ["a"], count: 4, spacing: 20, join: true });
    expect(built.reports).toHaveLength(1);
    expect(built.reports[0]!.volume).toBeCloseTo(4800, 8);
    expect(built.reports[0]).toMatchObject({ faces: 6, valid: true });
  });

  test.each([
    ["too many", { count: 1000, rows: 100 }, "That makes 100,000 bodies; a pattern takes at most 500."],
    ["one", { count: 1 }, "A pattern needs two or more"],
    ["nothing picked", { bodies: [] }, "Pick the bodies to copy."],
  ] as [string, Step, string][])("%s: one sentence, what was there stays", (_name, more, words) => {
    const built = after({ id: "p", type: "pattern", bodies: ["a"], ...more });
    expect(built.step("p").error?.message).toContain(words);
    expect(built.reports).toHaveLength(1);
  });

  test("half a body is refused where it is typed", () => {
    expect(messageOf(() => jobOf([block, { id: "p", type: "pattern", bodies: ["a"], count: 2.5 }]))).toContain(
      "whole number",
    );
  });
});

describe("scale", () => {
  test("evenly, as for shrink, about a point: volumes by the cube", () => {
    const built = after({ id: "s", type: "scale", bodies: ["a"], factor: "1 + 2/100", about: [20, 0, 0] });
    expect(built.step("s").error ?? null).toBeNull();
    expect(relative(built.reports[0]!.volume!, 1200 * 1.02 ** 3)).toBeLessThan(1e-12);
    expect(built.reports[0]!.box!.min[0]).toBeCloseTo(20 - 10.2, 5);
    expect(built.bodies[0]!.faces).toContain("a:side:z+");
  });

  test("nothing picked, and no size at all", () => {
    expect(after({ id: "s", type: "scale" }).step("s").error?.message).toBe("Pick the bodies to scale.");
    expect(messageOf(() => jobOf([block, { id: "s", type: "scale", bodies: ["a"], factor: 0 }]))).toContain(
      "more than 0",
    );
  });
});
