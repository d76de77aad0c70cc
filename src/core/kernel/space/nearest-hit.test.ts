import { expect, test } from "vitest";
import { Random } from "../../testing/trust/random";
import { nearestHit } from "./nearest-hit";
import { rayHit } from "./ray-hit";
import { sub, unit, type Vec3 } from "./vectors";

test("of many triangles by chance: the nearest of what each says by itself", () => {
  const random = new Random(3);
  const any = (): Vec3 => [random.between(-5, 5), random.between(-5, 5), random.between(-5, 5)];
  let met = 0;
  for (let round = 0; round < 200; round++) {
    const corners = Array.from({ length: 3 * 8 }, any);
    const mesh = { positions: corners.flat(), indices: corners.map((_, i) => i) };
    const [from, along] = [any(), unit(any())];
    const each = Array.from({ length: 8 }, (_, t) => {
      const [a, b, c] = corners.slice(3 * t, 3 * t + 3) as [Vec3, Vec3, Vec3];
      return rayHit(from, along, { a, ab: sub(b, a), ac: sub(c, a) });
    }).filter((hit) => hit !== null && hit > 0.5) as number[];
    const nearest = nearestHit(mesh, from, along, 0.5);
    if (each.length === 0) expect(nearest).toBe(Number.POSITIVE_INFINITY);
    else {
      expect(nearest).toBeCloseTo(Math.min(...each), 10);
      met++;
    }
  }
  expect(met).toBeGreaterThan(20);
});

test("a ray along a triangle meets nothing", () => {
  const mesh = { positions: [0, 0, 0, 4, 0, 0, 0, 4, 0], indices: [0, 1, 2] };
  expect(nearestHit(mesh, [1, 1, 3], [0, 0, -1], 0)).toBeCloseTo(3, 12);
  expect(nearestHit(mesh, [-2, 1, 0], [1, 0, 0], 0)).toBe(Number.POSITIVE_INFINITY);
  expect(nearestHit(mesh, [1, 1, 0], [0, 0, 1], 1e-6)).toBe(Number.POSITIVE_INFINITY);
});
