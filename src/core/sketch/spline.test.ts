import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Vec2 } from "./curves";
import { splinePoles } from "./spline";

const near = (a: Vec2, b: Vec2, within: number) => Math.hypot(a[0] - b[0], a[1] - b[1]) < within;
const coordinate = fc.double({ min: -100, max: 100, noNaN: true });
const points = (least: number) =>
  fc
    .array(fc.tuple(coordinate, coordinate), { minLength: least, maxLength: 9 })
    .filter((list) => list.every((p, i) => list.every((q, j) => i === j || Math.hypot(p[0] - q[0], p[1] - q[1]) > 1)));

describe("a spline through points", () => {
  test.each([false, true])("goes through every one, curvature running on (closed: %s)", (closed) => {
    fc.assert(
      fc.property(points(3), (list) => {
        const spline = splinePoles(list, { form: "through", closed: closed });
        const inner = spline.breaks();
        expect(inner).toHaveLength(list.length + (closed ? 1 : 0));
        list.forEach((point, i) => {
          expect(near(spline.at(inner[i]!), point, 1e-9)).toBe(true);
        });
        if (closed) expect(near(spline.at(1), list[0]!, 1e-9)).toBe(true);
        // The slope from the left and from the right of each inner knot, and its change, agree.
        const h = 1e-6;
        const size = Math.max(...Array.from({ length: 50 }, (_, i) => Math.hypot(...spline.slope(i / 49))));
        for (const knot of inner.slice(1, -1)) {
          const [left, right] = [spline.slope(knot - h), spline.slope(knot + h)];
          expect(near(left, right, size * 1e-3)).toBe(true);
        }
      }),
      { numRuns: 200, seed: 3 },
    );
  });

  test("of points on a parabola's chord ends it stays a straight line for two, and is exact for a line of many", () => {
    const spline = splinePoles(
      [
        [0, 0],
        [1, 2],
        [2, 4],
        [5, 10],
      ],
      { form: "through", closed: false },
    );
    for (const t of [0.1, 0.35, 0.8]) {
      const [x, y] = spline.at(t);
      expect(y).toBeCloseTo(2 * x, 10);
    }
    expect(
      splinePoles(
        [
          [0, 0],
          [4, 6],
        ],
        { form: "through", closed: false },
      ).at(0.5),
    ).toEqual([2, 3]);
  });

  test("a ring of many points on a circle lies on it to a few parts in a million", () => {
    const ring = Array.from(
      { length: 24 },
      (_, i): Vec2 => [10 * Math.cos((i * Math.PI) / 12), 10 * Math.sin((i * Math.PI) / 12)],
    );
    const spline = splinePoles(ring, { form: "through", closed: true });
    for (let i = 0; i < 200; i++) expect(Math.abs(Math.hypot(...spline.at(i / 200)) - 10)).toBeLessThan(2e-4);
  });
});

describe("a spline by control points", () => {
  test("begins and ends at the first and last, and lies in their hull", () => {
    fc.assert(
      fc.property(points(2), (list) => {
        const spline = splinePoles(list, { form: "control", closed: false });
        expect(near(spline.at(0), list[0]!, 1e-9)).toBe(true);
        expect(near(spline.at(1), list.at(-1)!, 1e-9)).toBe(true);
        for (let i = 0; i <= 20; i++) {
          const [x, y] = spline.at(i / 20);
          expect(x).toBeGreaterThanOrEqual(Math.min(...list.map((p) => p[0])) - 1e-9);
          expect(y).toBeLessThanOrEqual(Math.max(...list.map((p) => p[1])) + 1e-9);
        }
      }),
      { numRuns: 200, seed: 4 },
    );
  });

  test("closed, it is the uniform cubic B-spline: a third of the way in from each corner of a triangle's sides", () => {
    const spline = splinePoles(
      [
        [0, 0],
        [6, 0],
        [0, 6],
      ],
      { form: "control", closed: true },
    );
    // At a knot the curve is at (P₋₁ + 4P₀ + P₁) / 6.
    expect(near(spline.at(0), [(0 + 0 + 6) / 6, (6 + 0 + 0) / 6], 1e-12)).toBe(true);
    expect(near(spline.at(0), spline.at(1), 1e-12)).toBe(true);
    expect(near(spline.slope(0), spline.slope(1), 1e-9)).toBe(true);
  });
});
