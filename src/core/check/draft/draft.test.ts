import fc from "fast-check";
import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { checked } from "../../testing/checks";
import { buildSteps } from "../../testing/harness";
import type { CheckResult } from "../declare";

beforeAll(loadNodeKernel);

const DEGREES = 180 / Math.PI;
/** Kind, least, most, to within and verdict of each face. */
const lines = ({ found }: CheckResult) =>
  found.map(({ cells: [, kind, lean, verdict], bad }) => {
    const { angles, within } = lean as { angles: [number, number]; within: number };
    return { kind, low: angles[0], high: angles[1], within, verdict, bad };
  });

describe("draft of faces", () => {
  test("a block: its sides have none, its ends face the direction", () => {
    const result = checked(buildSteps({ id: "a", type: "box", size: [40, 30, 20] }), "draft");
    expect(result.summary).toBe("4 of 6 faces have less than 2° of draft to +Z.");
    expect(result.good).toBe(false);
    expect(lines(result).slice(0, 4)).toEqual(
      Array(4).fill(expect.objectContaining({ low: expect.closeTo(0, 9), verdict: "none: straight", bad: true })),
    );
    const ends = lines(result).slice(4);
    expect(ends.map(({ low }) => low).sort((a, b) => a - b)).toEqual([expect.closeTo(-90, 9), expect.closeTo(90, 9)]);
    expect(ends.every(({ verdict, bad }) => verdict === "enough" && !bad)).toBe(true);
  });

  test("cones by chance: the lean that their sizes give, exactly, whichever way up and however turned", () => {
    const sizes = fc.record({
      base: fc.integer({ min: 10, max: 80 }),
      top: fc.integer({ min: 10, max: 80 }),
      height: fc.integer({ min: 5, max: 120 }),
      axis: fc.constantFrom("x", "y", "z"),
      flip: fc.boolean(),
    });
    fc.assert(
      fc.property(sizes, ({ base, top, height, axis, flip }) => {
        fc.pre(base !== top);
        const built = buildSteps({ id: "a", type: "cone", diameter: base, top, height, axis });
        const result = checked(built, "draft", { along: axis, flip, least: 3 });
        const lean = Math.atan((base - top) / 2 / height) * DEGREES * (flip ? -1 : 1);
        const side = lines(result).find(({ kind }) => kind === "cone")!;
        expect(side.low).toBeCloseTo(lean, 4);
        expect(side.high).toBeCloseTo(lean, 4);
        expect(side.within).toBe(0);
        expect(side.bad).toBe(Math.abs(lean) < 3);
      }),
      { numRuns: 25 },
    );
  });

  test("a draft of its own step is found again; a formula says how much is enough", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [40, 30, 20] },
      {
        id: "d",
        type: "draft",
        faces: ["x+", "x-", "y+", "y-"].map((side) => ({ body: "a:block", face: `a:side:${side}` })),
        angle: 4,
      },
    );
    const sides = lines(checked(built, "draft", { least: "steep - 1 deg" })).filter(({ low }) => Math.abs(low) < 45);
    expect(sides).toHaveLength(4);
    for (const { low, bad } of sides) {
      expect(Math.abs(low)).toBeCloseTo(4, 9);
      expect(bad).toBe(false);
    }
    expect(checked(built, "draft", { least: "steep" }).good).toBe(false);
  });

  test("what leans both ways is told with the parting line, and how far what was read may be off", () => {
    const result = checked(buildSteps({ id: "a", type: "sphere", diameter: 40 }), "draft");
    const [ball] = lines(result);
    expect(ball).toMatchObject({ kind: "sphere", verdict: "leans both ways", bad: false });
    // The true extremes, 90° either way, lie within what is said.
    expect(ball!.high + ball!.within).toBeGreaterThanOrEqual(90);
    expect(ball!.low - ball!.within).toBeLessThanOrEqual(-90);
    expect(result.summary).toMatch(/1 face leans both ways: the parting line runs over it/);
    expect(result.note).toMatch(/to within \d+\.\d° at the most/);
  });

  test("cylinders and cones across the direction: the true extremes lie within what is said, and that is little", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 80 }),
        fc.integer({ min: 5, max: 80 }),
        fc.integer({ min: 20, max: 99 }),
        (base, top, height) => {
          fc.pre(base !== top);
          const built = buildSteps({ id: "a", type: "cone", diameter: base, top, height, axis: "x" });
          const side = lines(checked(built, "draft", { along: "z" })).find(({ kind }) => kind === "cone")!;
          const most = 90 - Math.abs(Math.atan((base - top) / 2 / height) * DEGREES);
          expect(side.high + side.within).toBeGreaterThanOrEqual(most - 1e-4);
          expect(side.low - side.within).toBeLessThanOrEqual(-most + 1e-4);
          expect(side.high).toBeLessThanOrEqual(most + 1e-3);
          expect(side.within).toBeLessThan(9);
        },
      ),
      // A blunt cone, and a slender one: their normals turn by less than they go round.
      {
        numRuns: 20,
        examples: [
          [5, 79, 20],
          [80, 5, 20],
          [40, 41, 99],
        ],
      },
    );
  });

  test("each corner of each mesh has its value, and the scale has a place for every one", () => {
    const built = buildSteps(
      { id: "a", type: "sphere", diameter: 40 },
      { id: "b", type: "box", size: [9, 9, 9], at: [60, 0, 0] },
    );
    const { paint, bands } = checked(built, "draft", { least: 3 });
    expect(paint.map(({ body }) => body)).toEqual(built.bodies.map(({ id }) => id));
    expect(bands.map(({ to }) => to)).toEqual([-3, expect.any(Number), expect.any(Number), 3, null]);
    const values = [...paint[0]!.values];
    expect(Math.max(...values)).toBeCloseTo(90, 3);
    expect(Math.min(...values)).toBeCloseTo(-90, 3);
    expect(new Set(bands.map(({ tone }) => tone)).size).toBe(bands.length);
  });

  test("a curved face that may have less than was read at the corners of its mesh is not called enough", () => {
    // A ring's upper half, cut off where it leans by some degrees: between two corners it may lean by less.
    const built = buildSteps(
      { id: "t", type: "torus", diameter: 60, section: 16 },
      { id: "p", type: "workplane", base: "xy", offset: 1 },
      { id: "s", type: "seam", preset: "trim", stock: ["t"], cutters: ["p"], keepSide: { p: "front" } },
    );
    const result = checked(built, "draft", { least: 5 });
    const round = lines(result).filter(({ kind }) => kind === "torus");
    expect(round.length).toBeGreaterThan(0);
    for (const { low, within, verdict, bad } of round) {
      expect(low).toBeCloseTo(Math.asin(1 / 8) * DEGREES, 3);
      expect(low - within).toBeLessThan(5);
      expect([verdict, bad]).toEqual(["may be too little", true]);
    }
    expect(result.summary).toMatch(/, or may have: \d+ cannot be told from the mesh\./);
    expect(result.good).toBe(false);
  });
});
