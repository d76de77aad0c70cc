import { beforeAll, describe, expect, test } from "vitest";
import { curvesOf, findProfile, type Sketch } from "../../sketch";
import { relative } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";
import { areaOf, countsOf, drawOutSheet, drawOutSolid, freeShape, isValid, volumeOf } from "..";
import { loadNodeKernel } from "../library/node";

beforeAll(loadNodeKernel);

const frame = { origin: [1, 2, 3], normal: [0, 0.6, 0.8], x: [1, 0, 0] } as const;

function profile(sketch: Pick<Sketch, "entities">) {
  const found = findProfile(curvesOf(sketch.entities));
  const stretches = found.graph.stretches.map(({ curve, ...rest }) => ({ ...rest, shape: curve.shape }));
  return { ...found, places: found.graph.places, stretches };
}

function busy(): SketchMaker {
  const d = new SketchMaker();
  const corners = [
    [0, 0],
    [60, 0],
    [60, 40],
    [0, 40],
  ] as const;
  for (const [i, corner] of corners.entries()) d.line(`l${i}`, [...corner], [...corners[(i + 1) % 4]!]);
  d.circle("c", [15, 20], 8);
  d.ellipse("e", [42, 20], [52, 24], 6);
  d.line("m", [30, -5], [30, 45]);
  const points = [
    [-5, 5],
    [20, 12],
    [40, 4],
    [66, 9],
  ].map(([x, y], i) => d.point(`p${i}`, x!, y!));
  d.entities.push({ id: "s", type: "spline", form: "through", closed: false, points, construction: false });
  return d;
}

describe("drawn out of a plane", () => {
  test("each region's solid has the region's area times the height, to 1e-9, and is sound", () => {
    const { regions, places, stretches } = profile(busy());
    expect(regions.length).toBe(7);
    for (const { outline, holes, area } of regions) {
      const { shape, sources } = drawOutSolid(frame, places, stretches, outline, holes, -2, 8);
      expect(relative(volumeOf(shape), area * 10)).toBeLessThan(1e-9);
      expect(isValid(shape)).toBe(true);
      expect(countsOf(shape)).toMatchObject({ genus: holes.length, pinches: [], rims: 0 });
      expect(sources.filter((source) => source === "base" || source === "end")).toHaveLength(2);
      // A prism's skin: two caps, and sides whose areas are the boundary's length times the height.
      const sides = [...outline, ...holes.flat()];
      expect(new Set(sources.filter((source) => typeof source === "number"))).toEqual(
        new Set(sides.map(({ stretch }) => stretch)),
      );
      expect(areaOf(shape)).toBeGreaterThan(2 * area);
      freeShape(shape);
    }
  });

  test("the area of a flat face that a spline bounds", () => {
    const { regions, places, stretches } = profile(busy());
    const { outline, holes, area } = regions.find(({ key }) => key === "l0+ l1+ m- s-")!;
    const [low, high] = [
      drawOutSolid(frame, places, stretches, outline, holes, 0, 1),
      drawOutSolid(frame, places, stretches, outline, holes, 0, 2),
    ];
    // Twice the thinner less the thicker leaves the caps alone.
    expect(relative(2 * areaOf(low.shape) - areaOf(high.shape), 2 * area)).toBeLessThan(1e-7);
    freeShape(low.shape);
    freeShape(high.shape);
  });

  test("a sheet of every curve: the edges between them are shared", () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [10, 0]);
    d.arc("b", [10, 5], "a_b", [10, 10]);
    d.line("c", "b_b", [0, 10]);
    const { places, stretches } = profile(d);
    const { shape, sources } = drawOutSheet(frame, places, stretches, -3, 4);
    expect(sources).toEqual([0, 1, 2]);
    expect(areaOf(shape)).toBeCloseTo(7 * (20 + 5 * Math.PI), 9);
    expect(countsOf(shape)).toMatchObject({ faces: 3, shells: 1, rims: 1 });
    freeShape(shape);
  });
});
