import { beforeAll, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { Random } from "../../testing/trust/random";
import { loadNodeKernel } from "../library/node";
import type { Vec3 } from "../space/vectors";
import { contains } from "./distance";

beforeAll(loadNodeKernel);

/** How far a place lies outside, mm; less than nothing where it lies inside. */
type Depth = (at: Vec3) => number;
const SOLIDS: Record<string, { steps: object[]; depth: Depth }> = {
  ball: { steps: [{ id: "a", type: "sphere", diameter: 20 }], depth: (at) => Math.hypot(...at) - 10 },
  ring: {
    steps: [{ id: "a", type: "torus", diameter: 40, section: 12 }],
    depth: ([x, y, z]) => Math.hypot(Math.hypot(x, y) - 20, z) - 6,
  },
  block: {
    steps: [{ id: "a", type: "box", size: [20, 14, 12], anchor: "centre" }],
    depth: ([x, y, z]) => {
      const [dx, dy, dz] = [Math.abs(x) - 10, Math.abs(y) - 7, Math.abs(z) - 6];
      return Math.hypot(Math.max(dx, 0), Math.max(dy, 0), Math.max(dz, 0)) + Math.min(0, Math.max(dx, dy, dz));
    },
  },
  "block with a corner cut out": {
    steps: [
      { id: "b", type: "box", size: [20, 20, 20], anchor: "centre" },
      { id: "c", type: "box", size: [20, 20, 20], at: [10, 10, 0] },
      { id: "a", type: "seam", preset: "subtract", stock: ["b"], cutters: ["c"] },
    ],
    depth: ([x, y, z]) => {
      const whole = Math.max(Math.abs(x) - 10, Math.abs(y) - 10, Math.abs(z) - 10);
      const cut = Math.min(x, y, z);
      return Math.max(whole, cut);
    },
  },
};

test.each(Object.keys(SOLIDS))("a point a little inside the skin, or a little outside: %s", (name) => {
  const { steps, depth } = SOLIDS[name]!;
  const random = new Random(515);
  const built = buildSteps(...(steps as Record<string, unknown>[]));
  expect(built.step("a").state).toBe("good");
  const { shape } = built.bodies.find(({ id }) => id.startsWith("a:"))!;
  let near = 0;
  for (let i = 0; i < 400; i++) {
    const place: Vec3 = [random.between(-28, 28), random.between(-28, 28), random.between(-28, 28)];
    const away = depth(place);
    // Down the slope of the depth to a place near the skin: some tenths of a millimetre to less than a thousandth.
    const step = 1e-6;
    const slope = [0, 1, 2].map((k) => (depth(place.map((v, j) => v + (j === k ? step : 0)) as never) - away) / step);
    const wanted = (i % 2 ? 1 : -1) * 10 ** random.between(-5.5, -2);
    const at = place.map((v, k) => v - (away - wanted) * slope[k]!) as unknown as Vec3;
    const really = depth(at);
    if (Math.abs(really) < 1e-6 || Math.abs(really) > 0.1) continue;
    near++;
    expect(contains(shape, at), `${at} ${really}`).toBe(really < 0);
  }
  expect(near).toBeGreaterThan(60);
});
