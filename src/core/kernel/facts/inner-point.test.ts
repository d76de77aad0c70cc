import { beforeAll, expect, test } from "vitest";
import { fuse } from "../divide/fuse";
import { loadNodeKernel } from "../library/node";
import { makeCylinder, makePlaneFace, makeSphere } from "../make/primitives";
import { contains } from "./distance";
import { innerPoint } from "./inner-point";
import { volumeOf } from "./mass";

beforeAll(loadNodeKernel);

test.each([
  ["a bar that shaves a ball by 0.11 mm", [makeBall(12), makeBar(-16, 8, 6)]],
  ["another", [makeBall(8), makeBar(16, -8, 10)]],
  ["a plane that shaves a ball by 0.01 mm", [makeBall(20), () => makePlaneFace([0, 0, 19.99], [0, 0, 1], 60)]],
  ["by a thousandth", [makeBall(20), () => makePlaneFace([0, 0, 19.999], [0, 0, 1], 60)]],
  [
    "a bar halved along by a plane nearly at its side",
    [makeBar(0, 0, 10), () => makePlaneFace([9.995, 0, 0], [1, 0, 0], 90)],
  ],
])("%s: a point in each piece, and in no other", (_, [one, other]) => {
  const pieces = fuse([one!(), other!()])
    .cells.filter(({ within }) => within.includes(0))
    .map(({ shape }) => shape);
  expect(pieces.length).toBeGreaterThan(1);
  for (const piece of pieces) {
    expect(volumeOf(piece)).toBeGreaterThan(0);
    const at = innerPoint(piece)!;
    expect(pieces.filter((shape) => contains(shape, at))).toEqual([piece]);
  }
});

function makeBall(radius: number) {
  return () => makeSphere([0, 0, 0], radius);
}
function makeBar(x: number, y: number, radius: number) {
  return () => makeCylinder([x, y, -80], [0, 0, 1], radius, 160);
}
