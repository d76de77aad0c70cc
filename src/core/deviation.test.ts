import { expect, test } from "vitest";
import { hearingDeviations, tellDeviation, withDeviation } from "./deviation";

const off = (size: number) => ({ size, at: [size, 0, 0] as const });

test("the worst that was told comes with what was made; what a computation within hears, it tells on itself", () => {
  expect(withDeviation(() => "nothing told")).toEqual({ result: "nothing told", off: null });
  const { result, off: worst } = withDeviation(() => {
    tellDeviation(off(2));
    tellDeviation(off(3));
    tellDeviation(off(1));
    const within = withDeviation(() => tellDeviation(off(9)));
    expect(within.off).toEqual(off(9));
    hearingDeviations(null, () => tellDeviation(off(8)));
    return "made";
  });
  expect([result, worst]).toEqual(["made", off(3)]);
});
