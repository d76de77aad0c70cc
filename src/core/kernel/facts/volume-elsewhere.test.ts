import { beforeAll, describe, expect, test } from "vitest";
import { Random } from "../../testing/trust/random";
import { fuse } from "../divide/fuse";
import { loadNodeKernel } from "../library/node";
import type { Shape } from "../library/topology";
import { makeCylinder, makeSphere, makeTorus } from "../make/primitives";
import { mirrored, placed } from "../make/transform";
import { add, scale, unit, type Vec3 } from "../space/vectors";
import { notedGap } from "./gaps";
import { areaOf, volumeOf } from "./mass";
import { volumeWithin } from "./volume-within";

beforeAll(loadNodeKernel);

/** Where a body may lie, mm: a jig on the bench, a frame in the shop, a part in a building's coordinates. */
const AWAY: Vec3[] = [
  [0, 0, 0],
  [500, -300, 200],
  [1e4, 2e4, -3e4],
];

// Faces that a crossing of round ones bounds meet to some 1e-7 mm only: what that leaves open counts with its distance from where one stands.
describe("what a body weighs does not depend on where in the world it lies", () => {
  test("what two equal bars have in common: 16 r³ / 3, and 16 r² of skin (Archimedes, after Steinmetz)", () => {
    const r = 5;
    for (const at of AWAY) {
      const bars = [
        makeCylinder(add(at, [0, 0, -20]), [0, 0, 1], r, 40),
        makeCylinder(add(at, [-20, 0, 0]), [1, 0, 0], r, 40),
      ];
      const common = fuse(bars).cells.find(({ within }) => within.length === 2)!.shape;
      expect(volumeOf(common) / ((16 * r ** 3) / 3)).toBeCloseTo(1, 8);
      expect(areaOf(common) / (16 * r * r)).toBeCloseTo(1, 8);
    }
  });

  test("pieces of round bodies by chance, moved and turned, mirrored, and made there", () => {
    const random = new Random(9);
    const any = (size: number) => random.between(-size, size);
    const way = () => unit([any(1), any(1), any(1) + 1e-3]);
    const body = (): ((at: Vec3) => Shape) => {
      const [middle, axis, a, b]: [Vec3, Vec3, number, number] = [
        [any(6), any(6), any(6)],
        way(),
        random.between(0, 1),
        random.between(0, 1),
      ];
      return random.pick<(at: Vec3) => Shape>([
        (at) => makeSphere(add(at, middle), 4 + 5 * a),
        (at) => makeTorus(add(at, middle), axis, 8 + 2 * a, 2 + 3 * b),
        (at) => makeCylinder(add(at, add(middle, scale(axis, -20))), axis, 3 + 5 * a, 40),
      ]);
    };
    for (let round = 0; round < 3; round++) {
      const [one, other] = [body(), body()];
      const pieces = (at: Vec3) =>
        fuse([one(at), other(at)])
          .cells.map(({ shape, within }) => ({
            shape,
            within,
            volume: volumeOf(shape),
            off: notedGap(shape) * areaOf(shape),
          }))
          .sort((p, q) => p.volume - q.volume);
      const near = pieces([0, 0, 0]);
      for (const at of AWAY) {
        for (const { shape, volume } of near) {
          const there = placed(shape, { about: [1, 2, 3], axis: way(), angle: any(3), by: at });
          expect(volumeOf(there) / volume).toBeCloseTo(1, 10);
          expect(volumeWithin(there)).toBe(0);
          expect(volumeOf(mirrored(shape, at, way())) / volume).toBeCloseTo(1, 10);
        }
        // A crossing computed there is as good as its edges say.
        const there = pieces(at);
        there.forEach(({ volume, off }, i) => {
          expect(Math.abs(volume - near[i]!.volume)).toBeLessThanOrEqual(off + near[i]!.off);
        });
        const own = there.filter(({ within }) => within.includes(0));
        const sum = (of: (piece: (typeof own)[number]) => number) => own.reduce((all, piece) => all + of(piece), 0);
        expect(Math.abs(sum(({ volume }) => volume) - volumeOf(one(at)))).toBeLessThanOrEqual(sum(({ off }) => off));
      }
    }
  });
});
