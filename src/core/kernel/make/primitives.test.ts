import { beforeAll, expect, test } from "vitest";
import { loadNodeKernel } from "../library/node";
import { facesOf, freeShape, type Shape } from "../library/topology";
import { makeBox, planeFaceFor } from "./primitives";

beforeAll(loadNodeKernel);

/** The library says of each of its objects whether it was freed; its types do not. */
const isFreed = (shape: Shape) => (shape as Shape & { isDeleted(): boolean }).isDeleted();

test("a plane is kept with the shape that it cuts, and freed with it; many places of one are not all kept", () => {
  const [one, other] = [makeBox([0, 0, 0], [10, 10, 10]), makeBox([0, 0, 0], [10, 10, 10])];
  const first = planeFaceFor(one, [0, 0, 5], [0, 0, 1], 20);
  expect(first.kept).toBe(true);
  expect(planeFaceFor(one, [0, 0, 5], [0, 0, 1], 20).face).toBe(first.face);
  expect(planeFaceFor(one, [0, 0, 5], [0, 0, -1], 20).face).not.toBe(first.face);
  expect(planeFaceFor(one, [0, 0, 5], [0, 0, 1], 21).face).not.toBe(first.face);
  expect(planeFaceFor(other, [0, 0, 5], [0, 0, 1], 20).face).not.toBe(first.face);
  // As while a plane is dragged: each place is made, none pushes out one that may be in use.
  const places = Array.from({ length: 40 }, (_, i) => planeFaceFor(one, [0, 0, i / 10], [0, 0, 1], 20));
  const loose = places.filter(({ kept }) => !kept);
  expect(loose.length).toBeGreaterThan(20);
  for (const { face } of loose) freeShape(face);
  expect(planeFaceFor(one, [0, 0, 5], [0, 0, 1], 20).face).toBe(first.face);
  // Its own face, too, goes with it.
  const [inner] = facesOf(first.face);
  freeShape(one);
  expect(isFreed(first.face)).toBe(true);
  expect(isFreed(inner!)).toBe(true);
  freeShape(other);
});
