import { expect, test } from "vitest";
import { rounded } from "./plane-map";

test("a place under the pointer is a round number of micrometres, and finer only where that can be seen", () => {
  expect(rounded([-39.99999987, 1.00040003], 4)).toEqual([-40, 1]);
  expect(rounded([1e-8, -1e-8], 4)).toEqual([0, 0]);
  expect(rounded([0.1000000001, 12.3456], 4)).toEqual([0.1, 12.346]);
  // A micrometre is two pixels wide here.
  expect(rounded([0.00012, 0.5], 2000)).toEqual([0.00012, 0.5]);
  // Never coarser than a micrometre, and never more than a fiftieth of a pixel off.
  for (const scale of [0.01, 0.3, 4, 70, 900, 12_000])
    for (const x of [1.23456789, -77.7777777]) {
      const off = Math.abs(rounded([x, 0], scale)[0] - x);
      expect(off).toBeLessThanOrEqual(0.0005 + 1e-12);
      if (scale >= 20) expect(off * scale).toBeLessThanOrEqual(0.0101);
    }
});
