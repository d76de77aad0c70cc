import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { distance, length, scale, turned, unit, type Vec3 } from "../kernel/space/vectors";
import {
  after,
  axisAndAngle,
  between,
  fromNumbers,
  IDENTITY,
  inverse,
  isIdentity,
  isMirrored,
  movedBy,
  numbersOf,
  transformOf,
  turnedBy,
} from ".";

const number = fc.double({ min: -500, max: 500, noNaN: true });
const vector = fc.tuple(number, number, number) as fc.Arbitrary<Vec3>;
const values = fc.record({
  by: vector,
  turn: fc.oneof(
    fc.double({ min: -720, max: 720, noNaN: true }),
    fc.constantFrom(0, 90, -90, 180, 270, 1e-7, 179.9999999),
  ),
  axis: vector.filter((axis) => length(axis) > 1e-3),
  mirror: fc.constantFrom("none", "x", "y", "z") as fc.Arbitrary<"none" | "x" | "y" | "z">,
});
const place = values.map(transformOf);

describe("how one part lies in another", () => {
  test("nothing is stretched, there and back is nothing, and one after the other is both", () => {
    fc.assert(
      fc.property(place, place, vector, vector, (one, other, a, b) => {
        expect(distance(movedBy(one, a), movedBy(one, b))).toBeCloseTo(distance(a, b), 8);
        expect(distance(movedBy(inverse(one), movedBy(one, a)), a)).toBeLessThan(1e-9);
        expect(distance(movedBy(after(one, other), a), movedBy(one, movedBy(other, a)))).toBeLessThan(1e-9);
        expect(isMirrored(after(one, other))).toBe(isMirrored(one) !== isMirrored(other));
        expect(distance(movedBy(other, movedBy(between(one, other), a)), movedBy(one, a))).toBeLessThan(1e-9);
      }),
      { numRuns: 300 },
    );
  });

  test("its turn as an axis and an angle is that turn, of half a turn and of next to none, too", () => {
    fc.assert(
      fc.property(values, vector, ({ mirror: _mirror, ...plain }, a) => {
        const transform = transformOf({ ...plain, mirror: "none" });
        const { axis, angle } = axisAndAngle(transform);
        expect(length(axis)).toBeCloseTo(1, 12);
        expect(distance(turned(a, axis, angle), turnedBy(transform, a))).toBeLessThan(1e-10 * (1 + length(a)));
      }),
      { numRuns: 500 },
    );
  });

  test("mirrored first, in its own plane; then turned; then moved", () => {
    const transform = transformOf({ by: [10, 0, 0], turn: 90, axis: [0, 0, 2], mirror: "x" });
    // (1, 2, 3) → (-1, 2, 3) → (-2, -1, 3) → (8, -1, 3): and without rounding.
    expect(movedBy(transform, [1, 2, 3])).toEqual([8, -1, 3]);
    expect(isMirrored(transform)).toBe(true);
  });

  test("quarter turns have no rounding, and four of them are nothing", () => {
    const quarter = transformOf({ by: [0, 0, 0], turn: 90, axis: [0, 1, 0], mirror: "none" });
    expect(movedBy(quarter, [1, 2, 3])).toEqual([3, 2, -1]);
    expect(isIdentity(after(quarter, after(quarter, after(quarter, quarter))))).toBe(true);
    expect(isIdentity(transformOf({ by: [0, 0, 0], turn: 720, axis: [1, 2, 3], mirror: "none" }))).toBe(true);
  });

  test("two parts that stand the same way lie to each other as they are drawn, to the last digit", () => {
    const odd = transformOf({ by: [0.1, 0.2, 0.3], turn: 17, axis: unit([1, 2, 3]), mirror: "y" });
    expect(between(odd, fromNumbers(numbersOf(odd)))).toEqual(IDENTITY);
    expect(scale([0, 0, 0], 1)).toEqual(inverse(IDENTITY).by);
  });
});
