import { beforeAll, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import type { LeaningCones } from "../library/faults";
import { loadNodeKernel } from "../library/node";
import { placed } from "../make/transform";
import type { Vec3 } from "../space/vectors";
import { refuseLeaningCones } from "./leaning-cones";

beforeAll(loadNodeKernel);

const CONE = { type: "cone", diameter: 36, top: 4, height: 36 };
const cone = () => buildSteps({ id: "a", ...CONE }).bodies[0]!.shape;

/** The cone leant by an angle, in degrees, about Y through its foot, and moved. */
const leant = (degrees: number, by: Vec3 = [0, 0, 0]) =>
  placed(cone(), { about: [0, 0, 0], axis: [0, 1, 0], angle: (degrees * Math.PI) / 180, by });

test.each([1e-5, 1e-3, 0.1, 0.5])(
  "a cone and the same leant by %d° are refused at once, with how near they are",
  (degrees) => {
    const lean = (degrees * Math.PI) / 180;
    try {
      refuseLeaningCones([cone(), leant(degrees)]);
      expect.unreachable();
    } catch (cause) {
      const { at, apart, lean: found } = cause as LeaningCones;
      expect(found / lean).toBeCloseTo(1, 3);
      // At the top, 36 mm up and 2 mm out, the side moves by the lean times what it stands off the foot square to its normal: sin and cos
      // of its half angle, of which the tangent is 16 / 36.
      const half = Math.atan(16 / 36);
      const most = lean * (36 * Math.cos(half) - 2 * Math.sin(half));
      expect(apart / most).toBeCloseTo(1, 1);
      expect(at![2]).toBeCloseTo(36, 0);
    }
  },
);

test.each<[string, Vec3, number]>([
  ["the same", [0, 0, 0], 0],
  ["moved aside", [0.01, 0, 0], 0],
  ["leant by 3°", [0, 0, 0], 3],
  ["leant a little, well aside", [2, 0, 0], 0.01],
  ["leant a little, elsewhere", [100, 0, 0], 0.01],
])("%s: left to the library", (_, by, degrees) => {
  expect(() => refuseLeaningCones([cone(), leant(degrees, by)])).not.toThrow();
});

test("the step says which, where, and what to do, and makes nothing", () => {
  const built = buildSteps(
    { id: "a", ...CONE },
    { id: "b", ...CONE },
    { id: "t", type: "move", bodies: ["b"], turn: 0.001, axis: "y" },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
  );
  const { state, error } = built.step("s");
  expect(state).toBe("failed");
  expect(error).toMatchObject({ code: "division-failed", at: expect.any(Array) });
  expect(error!.message).toMatch(
    /^Two conical faces lie within 0\.000\d+ mm .* Turn one so that their axes are parallel/,
  );
});
