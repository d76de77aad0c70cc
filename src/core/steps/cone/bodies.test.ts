import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

const one = (step: Record<string, unknown>) => {
  const built = buildSteps({ id: "a", ...step });
  expect(built.step("a").error ?? null).toBeNull();
  expect(built.reports[0]).toMatchObject({ valid: true, closed: true });
  return { report: built.reports[0]!, faces: built.bodies[0]!.faces.toSorted() };
};

describe("bodies by closed form, named faces", () => {
  test.each([
    ["pointed", { diameter: 18, height: 20 }, (Math.PI * 81 * 20) / 3, ["a:cap:base", "a:side"]],
    [
      "cut off",
      { diameter: 18, top: 8, height: 20 },
      (Math.PI * 20 * (81 + 36 + 16)) / 3,
      ["a:cap:base", "a:cap:end", "a:side"],
    ],
    ["on its point", { diameter: 0, top: 18, height: 20 }, (Math.PI * 81 * 20) / 3, ["a:cap:end", "a:side"]],
  ] as const)("a cone, %s", (_name, values, volume, names) => {
    for (const axis of ["x", "y", "z"]) {
      const { report, faces } = one({ type: "cone", ...values, axis, at: [5, 6, 7] });
      expect(relative(report.volume!, volume)).toBeLessThan(1e-9);
      expect(faces).toEqual(names);
      const k = ["x", "y", "z"].indexOf(axis);
      expect(report.box!.min[k]).toBeCloseTo([5, 6, 7][k]!, 5);
      expect(report.box!.max[k]).toBeCloseTo([5, 6, 7][k]! + 20, 5);
    }
  });

  test("a torus, by Pappus", () => {
    const { report, faces } = one({ type: "torus", diameter: 80, section: 16, axis: "y" });
    expect(relative(report.volume!, 2 * Math.PI ** 2 * 40 * 64)).toBeLessThan(1e-9);
    expect(report.box!.max[1]).toBeCloseTo(8, 4);
    expect(faces).toEqual(["a:skin"]);
  });

  test.each([
    ["to an edge", {}, (60 * 20 * 30) / 2, 5],
    ["to a top over its start", { top: 10 }, ((60 + 10) / 2) * 20 * 30, 6],
    ["to a top in the middle", { top: 10, ridge: "middle" }, ((60 + 10) / 2) * 20 * 30, 6],
  ] as const)("a wedge %s", (_name, values, volume, count) => {
    const { report, faces } = one({ type: "wedge", ...values, at: [1, 2, 3] });
    expect(relative(report.volume!, volume)).toBeLessThan(1e-12);
    expect(faces).toHaveLength(count);
    expect(report.box!.min.map((value) => Math.round(value))).toEqual([1, 2, 3]);
    expect(report.box!.max.map((value) => Math.round(value))).toEqual([61, 32, 23]);
    expect(faces).toContain("a:side:slope");
  });

  test.each([
    [{ type: "cone", diameter: 0, top: 0 }, "needs a diameter"],
    [{ type: "torus", diameter: 10, section: 10 }, "no hole"],
    [{ type: "wedge", length: 10, top: 10 }, "nothing narrows"],
  ])("%j says what to change", (step, words) => {
    expect(buildSteps({ id: "a", ...step }).step("a").error?.message).toContain(words);
  });
});
