import { describe, expect, test } from "vitest";
import type { SketchView } from "@/engine/contract";
import { takenRegions, toggleRegion } from "./regions";

const region = (key: string, inner: [number, number], filled: boolean) => ({ key, inner, filled, area: 1, rings: [] });
const sketch = {
  regions: [
    region("a+", [0, 0], true),
    region("b+", [5, 0], false),
    // Two that have the same curves round them: a point inside tells them apart.
    region("c+ d-", [10, 0], true),
    region("c+ d-", [20, 0], true),
  ],
} as unknown as SketchView;

describe("regions of a sketch", () => {
  test("while none is chosen, all that are no holes", () => {
    expect(takenRegions(sketch, [])).toEqual([true, false, true, true]);
  });

  test("one left, one taken, all again", () => {
    const without = toggleRegion(sketch, [], 0);
    expect(without).toEqual([
      { key: "c+ d-", inner: [10, 0] },
      { key: "c+ d-", inner: [20, 0] },
    ]);
    expect(takenRegions(sketch, without)).toEqual([false, false, true, true]);
    const other = toggleRegion(sketch, without, 3);
    expect(takenRegions(sketch, other)).toEqual([false, false, true, false]);
    expect(takenRegions(sketch, toggleRegion(sketch, other, 1))).toEqual([false, true, true, false]);
    expect(toggleRegion(sketch, without, 0)).toEqual([]);
  });

  test("the last one cannot be left: none chosen would mean all", () => {
    const last = [{ key: "a+", inner: [0, 0] as [number, number] }];
    expect(toggleRegion(sketch, last, 0)).toEqual(last);
  });
});
