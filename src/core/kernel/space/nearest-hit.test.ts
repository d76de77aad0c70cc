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

test("a ray through what two triangles share does not slip between them", () => {
  const random = new Random(5);
  for (let round = 0; round < 400; round++) {
    // A fan round a middle, tilted: rays straight through its spokes and its middle.
    const tilt = random.between(-1, 1);
    const at = (turn: number, r: number): Vec3 => {
      const [x, y] = [7 + r * Math.cos(turn), -3 + r * Math.sin(turn)];
      return [x, y, tilt * x];
    };
    const spokes = Array.from({ length: 7 }, (_, i) => at((i * 2 * Math.PI) / 7 + round, 5));
    const positions = [at(0, 0), ...spokes].flat();
    const indices = spokes.flatMap((_, i) => [0, 1 + i, 1 + ((i + 1) % 7)]);
    const spoke = spokes[round % 7]!;
    const share = random.between(0, 0.99);
    const middle = at(0, 0);
    const on = middle.map((value, k) => value + share * (spoke[k]! - value)) as unknown as Vec3;
    const along = unit([random.between(-0.2, 0.2), random.between(-0.2, 0.2), -1]);
    const from = on.map((value, k) => value - 4 * along[k]!) as unknown as Vec3;
    expect(nearestHit({ positions, indices }, from, along, 1e-6)).toBeCloseTo(4, 6);
  }
});
