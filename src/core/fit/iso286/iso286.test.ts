import { describe, expect, test } from "vitest";
import { GRADES, gradeTolerance } from "./grades";
import { fitOf, limitsOf, readClass } from "./limits";
import { FINE_RANGES, RANGES } from "./ranges";
import { SHAFT_LETTERS, shaftDeviations } from "./shafts";

/** Middle of a range, as the standard takes it: the geometric mean of its ends; of the first, of 1 and 3 mm. */
const middle = (ranges: readonly number[], i: number) => Math.sqrt((i === 0 ? 1 : ranges[i - 1]!) * ranges[i]!);
/** The tolerance factor, µm: ISO 286-1:2010, annex A (B in the first edition): i = 0.45 ∛D + 0.001 D, D in mm. */
const factor = (D: number) => 0.45 * Math.cbrt(D) + 0.001 * D;
/** Tables are rounded by rules of their own; up to 3 mm they are coarser than the formulas. @param r the place of the range */
function nearly(told: number, formula: number, r: number): void {
  expect(Math.abs(told - formula)).toBeLessThanOrEqual(Math.max(1.02, (r === 0 ? 0.16 : 0.055) * formula));
}

describe("the standard's formulas, over all ranges", () => {
  // Common knowledge of the standard: IT5 = 7 i, IT6 = 10 i, 16, 25, 40, 64, 100, then times 10 each five grades.
  test.each([
    [5, 7],
    [6, 10],
    [7, 16],
    [8, 25],
    [9, 40],
    [10, 64],
    [11, 100],
    [12, 160],
    [13, 250],
    [14, 400],
    [15, 640],
    [16, 1000],
  ])("IT%i = %i i", (grade, times) => {
    for (const [r, size] of RANGES.entries())
      nearly(gradeTolerance(grade, size)!, times * factor(middle(RANGES, r)), r);
  });

  test("IT1 = 0.8 + 0.02 D; IT2 to IT4 in equal ratios between it and IT5", () => {
    for (const [r, size] of RANGES.entries()) {
      const D = middle(RANGES, r);
      const [first, fifth] = [0.8 + 0.02 * D, 7 * factor(D)];
      for (const grade of [1, 2, 3, 4]) {
        const formula = first * (fifth / first) ** ((grade - 1) / 4);
        // Beyond 250 mm the table is finer than its formula by up to a fifth.
        expect(Math.abs(gradeTolerance(grade, size)! - formula)).toBeLessThanOrEqual(
          Math.max(0.7, (size > 250 ? 0.21 : 0.1) * formula),
        );
      }
    }
  });

  // Annex A's formulas of deviations, µm: d 16 D^0.44, e 11 D^0.41, f 5.5 D^0.41, g 2.5 D^0.34; k 0.6 ∛D; m IT7 − IT6; n 5 D^0.34.
  test.each([
    ["d", (D: number) => 16 * D ** 0.44],
    ["e", (D: number) => 11 * D ** 0.41],
    ["f", (D: number) => 5.5 * D ** 0.41],
    ["g", (D: number) => 2.5 * D ** 0.34],
  ] as const)("shafts below the nominal size: %s", (letter, formula) => {
    for (const [r, size] of RANGES.entries())
      nearly(-shaftDeviations(letter, 7, size)!.upper, formula(middle(RANGES, r)), r);
  });
  test.each([
    ["k", (D: number) => 0.6 * Math.cbrt(D)],
    // At 3 mm and below the table of n is narrower than its formula.
    ["n", (D: number) => (D < 3 ? 4 : 5 * D ** 0.34)],
  ] as const)("shafts above the nominal size: %s", (letter, formula) => {
    for (const [r, size] of RANGES.entries())
      nearly(shaftDeviations(letter, 6, size)!.lower, formula(middle(RANGES, r)), r);
  });
  test("m = IT7 − IT6; p = IT7 and up to 5; s = IT8 and 1 to 4 up to 50 mm, IT7 + 0.4 D above; r half-way between p and s", () => {
    for (const size of RANGES) {
      const [seventh, sixth] = [gradeTolerance(7, size)!, gradeTolerance(6, size)!];
      expect(Math.abs(shaftDeviations("m", 6, size)!.lower - (seventh - sixth))).toBeLessThanOrEqual(size <= 3 ? 2 : 1);
      const p = shaftDeviations("p", 6, size)!.lower - (size <= 3 ? sixth : seventh);
      expect(p).toBeGreaterThanOrEqual(0);
      expect(p).toBeLessThanOrEqual(5);
    }
    for (const [r, size] of FINE_RANGES.entries()) {
      const [p, half, s] = ["p", "r", "s"].map((letter) => shaftDeviations(letter, 6, size)!.lower) as [
        number,
        number,
        number,
      ];
      if (size <= 50) {
        expect(s - gradeTolerance(8, size)!).toBeGreaterThanOrEqual(size <= 3 ? 0 : 1);
        expect(s - gradeTolerance(8, size)!).toBeLessThanOrEqual(4);
      } else nearly(s, gradeTolerance(7, size)! + 0.4 * middle(FINE_RANGES, r), r);
      nearly(half, Math.sqrt(p * s), r);
    }
  });
});

/** Limits in µm as handbooks print them: ISO 286-2:2010, from memory. */
const PRINTED: [size: number, zone: string, upper: number, lower: number][] = [
  [3, "H7", 10, 0],
  [10, "H7", 15, 0],
  [25, "H7", 21, 0],
  [50, "H7", 25, 0],
  [100, "H7", 35, 0],
  [500, "H7", 63, 0],
  [40, "H8", 39, 0],
  [60, "H9", 74, 0],
  [120, "H11", 220, 0],
  [20, "F8", 53, 20],
  [30, "F7", 41, 20],
  [25, "G7", 28, 7],
  [80, "D10", 220, 100],
  [25, "E9", 92, 40],
  [50, "JS7", 12.5, -12.5],
  [25, "K7", 6, -15],
  [10, "K6", 2, -7],
  [25, "M7", 0, -21],
  [300, "M6", -9, -41],
  [25, "N7", -7, -28],
  [25, "N9", 0, -52],
  [3, "N9", -4, -29],
  [25, "P7", -14, -35],
  [50, "P9", -26, -88],
  [60, "R7", -30, -60],
  [25, "S7", -27, -48],
  [25, "g6", -7, -20],
  [50, "g6", -9, -25],
  [25, "f7", -20, -41],
  [40, "e8", -50, -89],
  [20, "d9", -65, -117],
  [100, "h6", 0, -22],
  [100, "h11", 0, -220],
  [25, "js6", 6.5, -6.5],
  [25, "k6", 15, 2],
  [50, "m6", 25, 9],
  [25, "n6", 28, 15],
  [25, "p6", 35, 22],
  [60, "r6", 60, 41],
  [75, "r6", 62, 43],
  [25, "s6", 48, 35],
  [110, "s6", 101, 79],
  [450, "s7", 295, 232],
];

test.each(PRINTED)("%d %s: %d and %d µm", (size, zone, upper, lower) => {
  const { deviations, least, most } = limitsOf(size, zone);
  expect([deviations.upper, deviations.lower]).toEqual([upper, lower]);
  expect([most, least]).toEqual([size + upper / 1e3, size + lower / 1e3]);
});

test("fits, by their least and most gap in µm: sliding, running, between, pressed", () => {
  const told = (size: number, fit: string) => {
    const { leastGap, mostGap, kind } = fitOf(size, fit);
    return [Math.round(leastGap * 1e3), Math.round(mostGap * 1e3), kind];
  };
  expect(told(25, "H7/g6")).toEqual([7, 41, "clearance"]);
  expect(told(25, "H8/f7")).toEqual([20, 74, "clearance"]);
  expect(told(25, "H7/h6")).toEqual([0, 34, "clearance"]);
  expect(told(25, "H7/k6")).toEqual([-15, 19, "transition"]);
  expect(told(25, "H7/p6")).toEqual([-35, -1, "interference"]);
  expect(told(25, "P7/h6")).toEqual([-35, -1, "interference"]);
  expect(told(25, "G7/h6")).toEqual([7, 41, "clearance"]);
});

test("a fit with the hole at zero and the same with the shaft at zero are as tight, wherever the standard says so", () => {
  // 4.3.2: K, M, N up to IT8 and P to ZC up to IT7, with the shaft one grade finer; beyond 3 mm. D to H always.
  for (const size of FINE_RANGES.filter((end) => end > 3))
    for (const letter of SHAFT_LETTERS)
      for (const grade of [5, 6, 7, 8]) {
        const capital = letter.toUpperCase();
        if (/[prs]/.test(letter) && grade > 7) continue;
        if (capital === "K" && grade === 8) continue;
        if (capital === "M" && grade === 6 && size > 250 && size <= 315) continue;
        const finer = grade - 1;
        const [one, other] = [fitOf(size, `H${grade}/${letter}${finer}`), fitOf(size, `${capital}${grade}/h${finer}`)];
        if (letter === "js") continue;
        expect(other.leastGap, `${size} ${capital}${grade}`).toBeCloseTo(one.leastGap, 9);
        if (/[d-h]/.test(letter)) continue;
        expect(other.mostGap, `${size} ${capital}${grade}`).toBeCloseTo(one.mostGap, 9);
      }
});

test("what is no class, no fit or no size is refused with what to write", () => {
  expect(readClass(" H 7 ")).toEqual({ of: "hole", letter: "H", grade: 7 });
  expect(readClass("js6")).toEqual({ of: "shaft", letter: "js", grade: 6 });
  for (const text of ["", "7H", "Hs7", "z6", "q7", "H", "H 7.5", "h-6"])
    expect(() => readClass(text)).toThrow(/is no tolerance class/);
  expect(() => readClass("H17")).toThrow(/grades go from 1 to 16/);
  for (const size of [0, -3, 500.001, Number.NaN]) expect(() => limitsOf(size, "H7")).toThrow(/up to 500 mm/);
  for (const text of ["H7", "g6/H7", "H7/G7", "H7/g6/h5"]) expect(() => fitOf(25, text)).toThrow(/is no fit: write/);
  expect(() => limitsOf(25, "K9")).toThrow("There is no K9 at 25 mm");
  expect(GRADES).toHaveLength(16);
});
