import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { SketchMaker, sizeOf, solved } from "../../testing/sketches";
import type { Dimension, DimensionType } from "../entities";
import { SketchFault, sided, solveSketch } from ".";

/** A point beside an upright line through the origin, with one size between them; where it lies across. */
function beside(type: DimensionType, start: number): SketchMaker {
  const draft = new SketchMaker();
  draft.line("axis", "origin", [0, 50]);
  draft.holds("vertical", "axis");
  draft.point("p", start, 20);
  draft.size(type, 10, ...(type === "distance" ? ["p", "axis"] : ["origin", "p"]));
  return draft;
}

const set = (dimension: Dimension, value: number) => ({ ...dimension, value }) as Dimension;

describe("a distance that comes out below 0 lies on the other side", () => {
  test.each([
    ["across", 7],
    ["across", -7],
    ["distance", 7],
    ["distance", -7],
  ] as const)("%s, drawn at %d", (type, start) => {
    const draft = beside(type, start);
    const own = Math.sign(start);
    for (const value of [12, -12, 0.5, -0.5]) {
      draft.dimensions[0] = set(draft.dimensions[0]!, value);
      expect(solved(draft).at("p")[0]).toBeCloseTo(own * value, 9);
    }
  });

  test("upright, and between lines that are parallel", () => {
    const draft = new SketchMaker();
    draft.line("a", "origin", [40, 0]);
    draft.holds("horizontal", "a");
    draft.line("b", [0, 9], [40, 9]);
    draft.holds("parallel", "b", "a");
    draft.size("distance", -15, "a", "b");
    draft.point("p", 3, 4);
    draft.size("upright", -6, "origin", "p");
    const { at } = solved(draft);
    expect(at("b_a")[1]).toBeCloseTo(-15, 9);
    expect(at("p")[1]).toBeCloseTo(-6, 9);
  });

  test("whatever is kept in between, a value lies where it lies when the drawing is opened anew", () => {
    fc.assert(
      fc.property(
        fc.constantFrom<DimensionType>("across", "distance"),
        fc.constantFrom(-8, 8),
        fc.array(fc.record({ value: fc.integer({ min: -40, max: 40 }), keep: fc.boolean() }), {
          minLength: 1,
          maxLength: 8,
        }),
        (type, start, values) => {
          let draft = beside(type, start) as Pick<SketchMaker, "entities" | "constraints" | "dimensions">;
          for (const { value, keep } of values) {
            // As the page does: sides are written down before anything is drawn anew, and what was drawn is kept with them.
            const next = sided({ ...draft, dimensions: [set(draft.dimensions[0]!, value)] }, sizeOf);
            const state = solveSketch(next, sizeOf);
            expect(state.met).toBe(true);
            const point = state.entities.find(({ id }) => id === "p") as { x: number };
            expect(point.x).toBeCloseTo(Math.sign(start) * value, 6);
            if (keep) draft = { ...next, entities: state.entities };
          }
        },
      ),
      { numRuns: 200, seed: 12 },
    );
  });

  test("what has no other side is refused by name", () => {
    const draft = new SketchMaker();
    draft.circle("c", [0, 0], 5);
    draft.size("radius", -5, "c");
    expect(() => solveSketch(draft, sizeOf)).toThrow(SketchFault);
    expect(() => solveSketch(draft, sizeOf)).toThrow(/radius comes out as −5 mm\. Only distances along an axis/);
    const line = new SketchMaker();
    line.line("l", [0, 0], [10, 0]);
    line.size("distance", -10, "l");
    expect(() => solveSketch(line, sizeOf)).toThrow(/may be below 0/);
  });
});
