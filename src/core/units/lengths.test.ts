import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asFraction,
  formatArea,
  formatDeviation,
  formatLength,
  formatVolume,
  namesUnit,
  parseAngle,
  parseLength,
} from ".";

describe("reading lengths", () => {
  test.each([
    ["12", 12],
    ["12 mm", 12],
    ["12mm", 12],
    ["-2.5", -2.5],
    [".5 in", 12.7],
    ["0.5 in", 12.7],
    ["1/2 in", 12.7],
    ['1/2"', 12.7],
    ["3 1/8 in", 79.375],
    ["3-1/8 in", 79.375],
    ["-3 1/8 in", -79.375],
    ["10 thou", 0.254],
    ["2 cm", 20],
    ["1.5 m", 1500],
    ["1e2", 100],
  ])("%s is %d mm", (text, mm) => {
    const parsed = parseLength(text);
    expect(parsed.ok && parsed.value).toBeCloseTo(mm, 10);
  });

  test("the inch is 25.4 mm exactly (ISO 80000-3; international yard and pound agreement, 1959)", () => {
    expect(parseLength("1 in")).toEqual({ ok: true, value: 25.4 });
    expect(parseLength("1", "inch")).toEqual({ ok: true, value: 25.4 });
  });

  test.each(["", "abc", "1/0", "12 furlongs", "1..2", "NaN", "Infinity", "1e999", "--3", "1 2", "9".repeat(300)])(
    "%s is refused with a sentence",
    (text) => {
      const parsed = parseLength(text);
      expect(parsed.ok).toBe(false);
      if (!parsed.ok) expect(parsed.problem).toMatch(/write a length such as/);
    },
  );

  test("any sixty-fourth is read as it is written", () => {
    fc.assert(
      fc.property(fc.integer({ min: -6400, max: 6400 }), (count) => {
        const written = asFraction((count / 64) * 25.4)!;
        const parsed = parseLength(`${written} in`);
        expect(parsed.ok && Math.abs(parsed.value - (count / 64) * 25.4)).toBeLessThan(1e-9);
      }),
    );
  });
});

test("angles are degrees unless they say otherwise", () => {
  for (const text of ["180", "180 deg", "180°", "3.141592653589793 rad"]) {
    const parsed = parseAngle(text);
    expect(parsed.ok && parsed.value).toBeCloseTo(Math.PI, 12);
  }
  expect(parseAngle("90 mm").ok).toBe(false);
});

test("writing", () => {
  expect(formatLength(12.34567)).toBe("12.346 mm");
  expect(formatLength(-2)).toBe("−2 mm");
  expect(formatLength(79.375, "inch")).toBe("3.125 in");
  expect(asFraction(79.375)).toBe("3 1/8");
  expect(asFraction(10)).toBeNull();
  expect(formatVolume(1234567)).toBe("1235 cm³");
  expect(formatVolume(16387.064, "inch")).toBe("1 in³");
  expect(formatArea(645.16, "inch")).toBe("1 in²");
  expect(namesUnit("12 mm") && namesUnit('1/2"') && !namesUnit("12")).toBe(true);
});

test.each([
  [4.88e-6, "0.0000049 mm"],
  [0.00012, "0.00012 mm"],
  [0.0301, "0.031 mm"],
  [1.25, "1.3 mm"],
  [12, "12 mm"],
  [0, "0 mm"],
])("a deviation of %d is rounded up to what counts", (mm, text) => {
  expect(formatDeviation(mm)).toBe(text);
});

test("a volume that is not had exactly says how far it may be off", () => {
  expect(formatVolume(1234.5, "mm", 1.2)).toBe("1235 ± 1.2 mm³");
  expect(formatVolume(1234567, "mm", 2500)).toBe("1235 ± 2.5 cm³");
  expect(formatVolume(16387.064, "inch", 16.387064)).toBe("1 ± 0.001 in³");
});
