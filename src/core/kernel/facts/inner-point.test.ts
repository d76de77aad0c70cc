import { beforeAll, expect, test } from "vitest";
import { build, jobOf } from "../../testing/harness";
import { fuse } from "../divide/fuse";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";
import { makeCylinder, makePlaneFace, makeSphere } from "../make/primitives";
import { contains, distanceToPoint } from "./distance";
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

test("a ray that runs along the side of two triangles is no way to a place within: all lie off the skin", () => {
  // Straight above the middle of the largest triangle of the lowest face, two triangles of the cone's base meet.
  const steps = [
    { id: "a", type: "box", size: [14, 18, 22], anchor: "centre" },
    { id: "k0", type: "cone", diameter: 26, top: 4, height: 10, at: [8, 2, -2] },
    { id: "k1", type: "workplane", base: "normal", through: [0, 0, 10], normal: [0, 0, 1] },
    {
      id: "k2",
      type: "sketch",
      entities: [
        { id: "c", type: "point", x: -12, y: 12 },
        { id: "k", type: "circle", centre: "c", radius: 15 },
      ],
    },
    { id: "k3", type: "workplane", base: "normal", through: [0, 0, -8], normal: [0, 0, 1] },
    { id: "s", type: "seam", stock: ["a"], cutters: ["k0", "k1", "k2", "k3"] },
  ];
  const pieces = build(jobOf(steps), { pieces: "s" }).pieces!.map(({ shape }) => shape as Shape);
  expect(pieces).toHaveLength(8);
  for (const piece of pieces) {
    const at = innerPoint(piece)!;
    expect(Math.min(...facesOf(piece).map((face) => distanceToPoint(face, at)!.gap))).toBeGreaterThan(0.2);
  }
});
