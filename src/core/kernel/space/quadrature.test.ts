import { describe, expect, test } from "vitest";
import { integrateTo } from "./quadrature";

/** What integrating gives, whether it settled, and how many places were asked for. */
function integrated(accuracy: number | null, from: number, to: number, f: (t: number) => number, scale = 1) {
  const total = new Float64Array(1);
  let asked = 0;
  const settles = integrateTo(
    accuracy,
    from,
    to,
    (t, into) => {
      asked++;
      into[0] = f(t);
    },
    [scale],
    total,
  );
  return { value: total[0]!, settles, asked };
}

describe("what the rules integrate exactly, over −1 to 1: ∫ xⁿ = 2/(n+1)", () => {
  test.each(Array.from({ length: 12 }, (_, i) => 2 * i))("fifteen points, to the degree of 23: x^%i", (n) => {
    // A power that two rules may differ about, asked for so coarsely that it is not divided; 1 + makes it of no symmetry.
    const { value, asked } = integrated(10, -1, 1, (x) => x ** n + 5 * x ** (n + 1));
    expect(asked).toBe(15);
    expect(value).toBeCloseTo(2 / (n + 1), 14);
  });

  test("and not of 24", () => {
    expect(Math.abs(integrated(10, -1, 1, (x) => x ** 24).value - 2 / 25)).toBeGreaterThan(1e-9);
  });

  test.each([0, 2, 4, 6, 8, 10, 12])("seven of them to that of 13: x^%i is not divided", (n) => {
    expect(integrated(1e-14, -1, 1, (x) => x ** n)).toMatchObject({ asked: 15, settles: true });
  });

  test("and no further", () => {
    expect(integrated(1e-9, -1, 1, (x) => x ** 14).asked).toBeGreaterThan(15);
  });

  test.each([0, 2, 4, 6, 8, 10, 12, 14])("eight points as they are, to that of 15: x^%i", (n) => {
    const { value, asked } = integrated(null, -1, 1, (x) => x ** n);
    expect(asked).toBe(8);
    expect(value).toBeCloseTo(2 / (n + 1), 14);
  });
});

describe("to an accuracy", () => {
  test.each([
    ["a wave", Math.sin, 0, 3, 1 - Math.cos(3)],
    ["a bell", (t: number) => 1 / (1 + 25 * t * t), -1, 1, (2 / 5) * Math.atan(5)],
  ])("%s", (_, f, from, to, exact) => {
    const { value, settles } = integrated(1e-10, from, to, f);
    expect(settles).toBe(true);
    expect(Math.abs(value - exact)).toBeLessThan(1e-10);
  });

  test.each([
    ["a kink", (t: number) => Math.abs(t - 0.3), (0.3 ** 2 + 0.7 ** 2) / 2],
    ["a root", Math.sqrt, 2 / 3],
  ])("%s where no knot says so settles to less, and to more it does not", (_, f, exact) => {
    const { value, settles } = integrated(1e-6, 0, 1, f);
    expect(settles).toBe(true);
    expect(Math.abs(value - exact)).toBeLessThan(1e-6);
    expect(integrated(1e-10, 0, 1, f).settles).toBe(false);
  });

  test("what has no bound does not settle", () => {
    expect(integrated(1e-10, 0, 1, (t) => 1 / t).settles).toBe(false);
    expect(integrated(1e-10, 0, 1, () => Number.NaN).settles).toBe(false);
  });
});
