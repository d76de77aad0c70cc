import { beforeAll, expect, test } from "vitest";
import { cutEdges, roundEdges, type Worked } from "../change/edge-work";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";
import { makeBox, makeCylinder } from "../make/primitives";
import { volumeChange, volumeOf } from "./mass";

beforeAll(loadNodeKernel);

/** The places of faces that one shape has and the other has not. */
const without = (one: Shape, other: Shape) =>
  facesOf(one).flatMap((face, place) => (facesOf(other).some((same) => same.IsSame(face)) ? [] : [place]));

const change = (before: Shape, after: Shape) =>
  volumeChange(before, without(before, after), after, without(after, before));

test("a rounded edge takes off what lies outside its arc; a cut one a prism: (1 − π/4) r² l and d² l / 2", () => {
  const box = makeBox([-10, -10, 5], [20, 20, 20]);
  const round = roundEdges(box, [{ place: 0, radius: 4 }]) as Worked;
  expect(change(box, round.shape)).toBeCloseTo(-(1 - Math.PI / 4) * 16 * 20, 9);
  const cut = cutEdges(box, [{ place: 0, first: 3, second: 3 }]) as Worked;
  expect(change(box, cut.shape)).toBeCloseTo(-(9 / 2) * 20, 9);
  // Back again: what was gone is fresh.
  expect(change(cut.shape, box)).toBeCloseTo((9 / 2) * 20, 9);
  expect(change(round.shape, cut.shape)).toBeCloseTo(volumeOf(cut.shape) - volumeOf(round.shape), 8);
  expect(change(box, box)).toBe(0);
});

test("the rim of a round bar, too: a ring's outside by Pappus", () => {
  const bar = makeCylinder([0, 0, 0], [0, 0, 1], 10, 30);
  const rim = [0, 1, 2].map((place) => roundEdges(bar, [{ place, radius: 2 }])).find((one) => "shape" in one) as Worked;
  // What lies between the corner and the arc has its middle r (10 − 3π) / (12 − 3π) from the corner (common in handbooks, from memory).
  const area = (1 - Math.PI / 4) * 4;
  const middle = (2 * (10 - 3 * Math.PI)) / (12 - 3 * Math.PI);
  expect(change(bar, rim.shape)).toBeCloseTo(-2 * Math.PI * (10 - middle) * area, 6);
});
