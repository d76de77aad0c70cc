import { beforeAll, expect, test, vi } from "vitest";
import { buildSteps } from "../../testing/harness";
import { loadNodeKernel } from "../library/node";
import { volumeOf } from "./mass";
import { volumeWithin } from "./volume-within";

/** As where no face can be had by closed form. */
const off = vi.hoisted(() => ({ forms: false }));
vi.mock("./integrals", async (original) => {
  const real = await original<typeof import("./integrals")>();
  return {
    ...real,
    faceIntegrals: (...all: Parameters<typeof real.faceIntegrals>) => (off.forms ? null : real.faceIntegrals(...all)),
  };
});

beforeAll(loadNodeKernel);

const at = [5, -3, 70];
const BODIES = {
  ball: [{ type: "sphere", diameter: 20, at }, (4 / 3) * Math.PI * 1000],
  ring: [{ type: "torus", diameter: 40, section: 8, at, axis: "x" }, 2 * Math.PI ** 2 * 20 * 16],
  cone: [{ type: "cone", diameter: 20, top: 0, height: 30, at }, Math.PI * 1000],
} as const;

test.each(Object.entries(BODIES))(
  "a %s without closed forms: how far off it may be is told, and holds",
  (_, [step, exact]) => {
    const made = () => buildSteps({ id: "b", ...step }).bodies[0]!.shape;
    off.forms = false;
    const known = made();
    expect(volumeWithin(known)).toBe(0);
    expect(volumeOf(known)).toBeCloseTo(exact, 6);
    off.forms = true;
    const shape = made();
    const within = volumeWithin(shape);
    expect(within).toBeGreaterThan(0);
    expect(within).toBeLessThan(0.02 * exact);
    expect(Math.abs(volumeOf(shape) - exact)).toBeLessThanOrEqual(within);
  },
);

test("what is measured of such a body says so; of any other it does not", () => {
  off.forms = true;
  expect(buildSteps({ id: "b", type: "sphere", diameter: 20 }).reports[0]!.volumeWithin).toBeGreaterThan(0);
  off.forms = false;
  expect(buildSteps({ id: "b", type: "sphere", diameter: 22 }).reports[0]).not.toHaveProperty("volumeWithin");
});
