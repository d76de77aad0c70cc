import { beforeAll, expect, test } from "vitest";
import { Random } from "../../testing/trust/random";
import { loadNodeKernel } from "../library/node";
import { facesOf } from "../library/topology";
import { makeBox, makeCylinder, makeRevolved, makeSphere, makeTorus } from "../make/primitives";
import { placed } from "../make/transform";
import { distance, type Vec3 } from "../space/vectors";
import { distanceToPoint } from "./distance";
import { footOn, leastGap } from "./surface-gap";
import { surfaceRecordsOf } from "./surfaces";

beforeAll(loadNodeKernel);

const BODIES = {
  plane: () => makeBox([-10, -10, -10], [20, 20, 20]),
  cylinder: () => makeCylinder([0, 0, -500], [0, 0, 1], 12, 1000),
  sphere: () => makeSphere([3, 2, 1], 15),
  torus: () => makeTorus([0, 0, 0], [0, 0, 1], 20, 6),
  cone: () =>
    makeRevolved([
      [0, -300],
      [400, -300],
      [30, 300],
      [0, 300],
    ]),
} as const;

test.each(Object.keys(BODIES) as (keyof typeof BODIES)[])(
  "the foot on a %s: it lies on it, as far away as the gap says, and the library finds none nearer",
  (kind) => {
    const random = new Random(91);
    const around = () => random.between(-1, 1);
    const made = BODIES[kind]();
    const shape = placed(made, {
      about: [1, 2, 3],
      axis: [0.6, 0, 0.8],
      angle: around(),
      by: [5 * around(), 5 * around(), 5 * around()],
    });
    const place = surfaceRecordsOf(shape).findIndex((surface) => surface?.kind === kind);
    for (let i = 0; i < 40; i++) {
      const at: Vec3 = [9 * around(), 9 * around(), 9 * around()];
      const foot = footOn(shape, place, at)!;
      expect(leastGap(shape, [place], foot)).toBeLessThan(1e-9);
      expect(distance(foot, at)).toBeCloseTo(leastGap(shape, [place], at), 9);
      // The whole surface is there, but of a flat face: its plane runs on.
      if (kind !== "plane")
        expect(distance(foot, at)).toBeLessThan(distanceToPoint(facesOf(shape)[place]!, at)!.gap + 1e-7);
    }
  },
);

test("on an axis and amid a ball many places are as near: none is said", () => {
  expect(footOn(makeCylinder([0, 0, 0], [0, 0, 1], 5, 10), 0, [0, 0, 4])).toBeNull();
  expect(footOn(makeSphere([0, 0, 0], 5), 0, [0, 0, 0])).toBeNull();
});
