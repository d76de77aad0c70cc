import { describe, expect, test } from "vitest";
import { derivativesOf, pointsOf } from "./curve-at";
import type { Curve } from "./curves";
import type { SplineData } from "./spline-data";
import { PATCH_NUMBERS, patchOfAny } from "./surface-at";
import type { SplineSurface } from "./surfaces";

/** A cubic that goes round on through eight poles, and a surface that does so both ways. */
const COUNT = 8;
const knots = Array.from({ length: COUNT + 1 }, (_, i) => i / 2);
const poles = Array.from({ length: COUNT }, (_, i) => {
  const angle = (2 * Math.PI * i) / COUNT;
  return [10 * Math.cos(angle), 6 * Math.sin(angle), i % 3];
});
const data: SplineData = { degree: 3, poles, weights: null, knots, periodic: true };
const matrix = [0, -1, 0, 5, 1, 0, 0, 6, 0, 0, 1, 7];
const period = COUNT / 2;

describe("what goes round on is a round later, and a round before, what it was", () => {
  test.each([
    ["as it is", {}],
    ["moved", { matrix }],
  ])("a curve, %s", (_, more) => {
    const curve: Curve = { kind: "spline", digest: "", spline: () => data, ...more };
    const [point, derivatives] = [pointsOf(curve)!, derivativesOf(curve)!];
    const numbers = (t: number) => {
      const into = new Float64Array(9);
      derivatives.at(t, into);
      return [...into];
    };
    for (const t of [0.01, 0.4, 1.7, 3.99])
      for (const rounds of [-2, -1, 1, 2]) {
        const [here, there] = [point(t), point(t + rounds * period)];
        for (let i = 0; i < 3; i++) {
          expect(there.at[i]).toBeCloseTo(here.at[i]!, 10);
          expect(there.slope[i]).toBeCloseTo(here.slope[i]!, 10);
        }
        numbers(t + rounds * period).forEach((value, i) => {
          expect(value).toBeCloseTo(numbers(t)[i]!, 9);
        });
        expect(numbers(t).slice(0, 6)).toEqual([...here.at, ...here.slope].map((value) => expect.closeTo(value, 9)));
      }
    // It closes smoothly: nothing jumps at the end of a round.
    const [before, after] = [point(period - 1e-9), point(period + 1e-9)];
    for (let i = 0; i < 3; i++) expect(after.slope[i]! - before.slope[i]!).toBeCloseTo(0, 6);
    expect(derivatives.breaks).toContain(period + 0.5);
  });

  test("a surface, both ways", () => {
    const surface: SplineSurface = {
      degrees: [3, 3],
      poles: poles.map(([x, y, z], i) => poles.map((_, j) => [x! + j, y! * (1 + j / 9), z! + ((i * j) % 4)] as const)),
      weights: null,
      knots: [knots, knots],
      periodic: [true, true],
    };
    const patch = patchOfAny({ kind: "spline", digest: "", spline: () => surface })!;
    const numbers = (u: number, v: number) => {
      const into = new Float64Array(PATCH_NUMBERS);
      patch.at(u, v, into);
      return [...into];
    };
    for (const [u, v] of [
      [0.3, 2.2],
      [3.6, 0.1],
    ] as const)
      expect(numbers(u - period, v + 2 * period)).toEqual(numbers(u, v).map((value) => expect.closeTo(value, 8)));
  });
});
