import { beforeAll, describe, expect, test } from "vitest";
import {
  areaOf,
  boxOf,
  extendSheet,
  freeShape,
  isConnected,
  isValid,
  makeBox,
  makeCylinder,
  makeRevolved,
  offsetSheet,
  pointOnFace,
  type Shape,
  sheetFromFaces,
  subshapePlanes,
} from "..";
import { distanceToPoint } from "../facts/distance";
import { loadNodeKernel } from "../library/node";

beforeAll(loadNodeKernel);

/** Places of the faces whose outward normal is one of these. */
function facing(body: Shape, ...normals: [number, number, number][]): number[] {
  return subshapePlanes(body).flatMap((plane, i) =>
    plane && normals.some((normal) => normal.every((value, k) => Math.abs(value - plane.normal[k]!) < 1e-9)) ? [i] : [],
  );
}

describe("offset sheets of a block", () => {
  test("one face moves along its normal and keeps its size", () => {
    const block = makeBox([0, 0, 0], [10, 20, 30]);
    const top = sheetFromFaces(block, facing(block, [0, 0, 1]));
    const moved = offsetSheet(top, -4);
    expect(boxOf(moved.shape)!.max[2]).toBeCloseTo(26, 9);
    expect(areaOf(moved.shape)).toBeCloseTo(200, 9);
    expect(moved.sources).toEqual(top.sources);
    for (const sheet of [top, moved]) freeShape(sheet.shape);
    freeShape(block);
  });

  test("three faces at a corner meet sharply again, in and out", () => {
    const block = makeBox([0, 0, 0], [10, 10, 10]);
    const corner = sheetFromFaces(block, facing(block, [0, 0, 1], [1, 0, 0], [0, 1, 0]));
    for (const distance of [3, -3]) {
      const moved = offsetSheet(corner, distance);
      expect(areaOf(moved.shape)).toBeCloseTo(3 * (10 + distance) ** 2, 6);
      expect(isConnected(moved.shape) && isValid(moved.shape)).toBe(true);
      const extended = extendSheet(moved, 5);
      expect(areaOf(extended.shape)).toBeCloseTo(3 * (10 + distance + 5) ** 2, 6);
      expect(isConnected(extended.shape) && isValid(extended.shape)).toBe(true);
      expect([...extended.sources].sort()).toEqual([...corner.sources].sort());
      for (const sheet of [moved, extended]) freeShape(sheet.shape);
    }
    freeShape(corner.shape);
    freeShape(block);
  });
});

describe("extending", () => {
  test("a cylinder's side grows along its axis only, at both ends", () => {
    const bar = makeCylinder([0, 0, 0], [0, 0, 1], 5, 20);
    const side = sheetFromFaces(
      bar,
      subshapePlanes(bar).flatMap((plane, i) => (plane ? [] : [i])),
    );
    const longer = extendSheet(side, 7);
    expect(areaOf(longer.shape)).toBeCloseTo(2 * Math.PI * 5 * 34, 6);
    for (const sheet of [side, longer]) freeShape(sheet.shape);
    freeShape(bar);
  });

  test("a cap with its collar: the collar grows, the cap stays where they meet", () => {
    const bar = makeCylinder([0, 0, 0], [0, 0, 1], 5, 20);
    const planes = subshapePlanes(bar);
    const cup = sheetFromFaces(
      bar,
      planes.flatMap((plane, i) => (!plane || plane.normal[2] < 0 ? [i] : [])),
    );
    const longer = extendSheet(cup, 4);
    expect(areaOf(longer.shape)).toBeCloseTo(Math.PI * 25 + 2 * Math.PI * 5 * 24, 6);
    expect(isValid(longer.shape)).toBe(true);
    for (const sheet of [cup, longer]) freeShape(sheet.shape);
    freeShape(bar);
  });

  test("a hole in a face is closed when it is extended", () => {
    const washer = makeRevolved([
      [4, 0],
      [10, 0],
      [10, 3],
      [4, 3],
    ]);
    const top = sheetFromFaces(washer, facing(washer, [0, 0, 1]));
    expect(areaOf(top.shape)).toBeCloseTo(Math.PI * 84, 6);
    const plate = extendSheet(top, 5);
    expect(areaOf(plate.shape)).toBeCloseTo(30 * 30, 6);
    for (const sheet of [top, plate]) freeShape(sheet.shape);
    freeShape(washer);
  });

  test("by nothing, it is the same sheet", () => {
    const block = makeBox([0, 0, 0], [1, 1, 1]);
    const top = sheetFromFaces(block, facing(block, [0, 0, 1]));
    const same = extendSheet(top, 0);
    expect(areaOf(same.shape)).toBeCloseTo(1, 12);
    for (const sheet of [top, same]) freeShape(sheet.shape);
    freeShape(block);
  });
});

test("a point on a face lies on the exact surface, curved or flat", () => {
  const bar = makeCylinder([0, 0, 0], [0, 0, 1], 5, 20);
  subshapePlanes(bar).forEach((_plane, i) => {
    const face = sheetFromFaces(bar, [i]);
    expect(distanceToPoint(face.shape, pointOnFace(face.shape))!.gap).toBeLessThan(1e-7);
    freeShape(face.shape);
  });
  freeShape(bar);
});
