import { describe, expect, test } from "vitest";
import { add, cross, scale, unit, type Vec3 } from "../space/vectors";
import { splineAt } from "./spline-data";
import { PATCH_NUMBERS, type Patch, patchOfAny } from "./surface-at";
import type { SplineSurface } from "./surfaces";

/** A net of poles with weights, neither of which is the same again. */
const KNOTS_U = [0, 0, 0, 0, 0.4, 1, 1, 1, 1];
const KNOTS_V = [0, 0, 0, 0.3, 0.3, 1, 1, 1];
const poles = Array.from({ length: 5 }, (_, i) =>
  Array.from({ length: 5 }, (_, j) => [3 * i + Math.sin(j), 2 * j - Math.cos(i * j), Math.sin(i + 2 * j)] as const),
);
const weights = poles.map((row, i) => row.map((_, j) => 1 + 0.3 * Math.sin(3 * i + j)));
const surfaces: Record<string, SplineSurface> = {
  polynomial: { degrees: [3, 2], poles, weights: null, knots: [KNOTS_U, KNOTS_V], periodic: [false, false] },
  rational: { degrees: [3, 2], poles, weights, knots: [KNOTS_U, KNOTS_V], periodic: [false, false] },
  "that goes round on": {
    degrees: [2, 2],
    poles,
    weights,
    knots: [[0, 1, 2, 3, 4, 5], KNOTS_V],
    periodic: [true, false],
  },
};
/** A third of a turn about the diagonal, and away. */
const MATRIX = [0, 0, 1, 5, 1, 0, 0, -7, 0, 1, 0, 2];

const numbersAt = (patch: Patch, u: number, v: number) => {
  const into = new Float64Array(PATCH_NUMBERS);
  patch.at(u, v, into);
  return [...into];
};
const vectorOf = (numbers: readonly number[], from: number): Vec3 => [
  numbers[from]!,
  numbers[from + 1]!,
  numbers[from + 2]!,
];
const near = (values: readonly number[], digits: number) => values.map((value) => expect.closeTo(value, digits));

describe.each(Object.entries(surfaces))("a spline surface, %s", (_, surface) => {
  const record = { kind: "spline" as const, digest: "", spline: () => surface };
  const patch = patchOfAny(record)!;
  const places = [0.05, 0.37, 0.63, 0.98].flatMap((u) => [0.02, 0.29, 0.31, 0.77].map((v) => [u, v] as const));

  test("its place is a spline of splines (de Boor, both ways)", () => {
    if (surface.periodic[0]) return;
    for (const [u, v] of places) {
      const along = (lift: (i: number, j: number) => number[]) =>
        poles[0]!.map((_, j) => {
          const column = poles.map((_, i) => lift(i, j));
          return splineAt({ degree: 3, poles: column, weights: null, knots: KNOTS_U, periodic: false }, u).at;
        });
      const heavy = along((i, j) => {
        const w = surface.weights?.[i]?.[j] ?? 1;
        return [...poles[i]![j]!.map((x) => x * w), w];
      });
      const [x, y, z, w] = splineAt({ degree: 2, poles: heavy, weights: null, knots: KNOTS_V, periodic: false }, v)
        .at as [number, number, number, number];
      expect(numbersAt(patch, u, v).slice(0, 3)).toEqual(near([x / w, y / w, z / w], 12));
    }
  });

  test("its derivatives are what its places and first derivatives change by", () => {
    const h = 1e-5;
    for (const [u, v] of places) {
      const here = numbersAt(patch, u, v);
      const byU = numbersAt(patch, u + h, v).map((value, i) => (value - numbersAt(patch, u - h, v)[i]!) / (2 * h));
      const byV = numbersAt(patch, u, v + h).map((value, i) => (value - numbersAt(patch, u, v - h)[i]!) / (2 * h));
      expect(here.slice(3, 6)).toEqual(near(byU.slice(0, 3), 5));
      expect(here.slice(6, 9)).toEqual(near(byV.slice(0, 3), 5));
      expect(here.slice(9, 12)).toEqual(near(byU.slice(3, 6), 5));
      expect(here.slice(12, 15)).toEqual(near(byU.slice(6, 9), 5));
      expect(here.slice(15, 18)).toEqual(near(byV.slice(6, 9), 5));
    }
  });

  test.each([
    ["where it was made", record],
    ["where it was moved to", { ...record, matrix: MATRIX }],
  ])("a line of it has the same places, %s", (_, there) => {
    const moved = patchOfAny(there)!;
    for (const [u] of places) {
      const line = moved.line!(u);
      for (const [, v] of places) {
        const into = new Float64Array(9);
        numbersAt(moved, 0.5, 0.5);
        line(v, into);
        expect([...into]).toEqual(near(numbersAt(moved, u, v).slice(0, 9), 11));
      }
      const seconds = moved.line!(u, 2);
      for (const [, v] of places) {
        const into = new Float64Array(PATCH_NUMBERS);
        seconds(v, into);
        expect([...into]).toEqual(near(numbersAt(moved, u, v), 10));
      }
      // A line that is made anew after places were asked for is right, too.
      const again = new Float64Array(9);
      moved.line!(u)(0.5, again);
      expect([...again]).toEqual(near(numbersAt(moved, u, 0.5).slice(0, 9), 11));
    }
  });

  test("offset it lies off along its normal, and its derivatives are what its places change by", () => {
    const by = 0.25;
    const moved = patchOfAny({ kind: "offset", digest: "", of: record, by })!;
    const h = 1e-5;
    for (const [u, v] of places) {
      const [on, off] = [numbersAt(patch, u, v), numbersAt(moved, u, v)];
      const normal = unit(cross(vectorOf(on, 3), vectorOf(on, 6)));
      expect(off.slice(0, 3)).toEqual(near(add(vectorOf(on, 0), scale(normal, by)), 12));
      const change = (du: number, dv: number) =>
        numbersAt(moved, u + du, v + dv).map((value, i) => (value - numbersAt(moved, u - du, v - dv)[i]!) / (2 * h));
      expect(off.slice(3, 6)).toEqual(near(change(h, 0).slice(0, 3), 5));
      expect(off.slice(6, 9)).toEqual(near(change(0, h).slice(0, 3), 5));
      const onLine = new Float64Array(9);
      moved.line!(u)(v, onLine);
      expect([...onLine]).toEqual(near(off.slice(0, 9), 11));
    }
  });
});
