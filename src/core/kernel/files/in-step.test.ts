import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { apart } from "../../testing/apart";
import { buildSteps } from "../../testing/harness";
import { type Curve, pointsOf, structureOf } from "../binary";
import { noSpans } from "../binary/contents";
import { rewritten, writeSpline2 } from "../binary/write";
import { notedGap, widestGap } from "../facts/gaps";
import { volumeOf } from "../facts/mass";
import { isValid } from "../facts/measure";
import { unsoundness } from "../facts/soundness";
import { recordOf, shapeOfRecord } from "../library/incidence";
import { loadNodeKernel } from "../library/node";
import { facesOf, freeShape, type Shape } from "../library/topology";
import { tessellate } from "../mesh/tessellate";
import { broughtInStep } from "./in-step";
import { readStepShapes } from "./step-file";

beforeAll(loadNodeKernel);

const COUNT = 48;

/** A shape whose images are run along unevenly, or lie aside: as a program that does not care writes them. */
function disturbed(shape: Shape, change: (share: number) => number, aside = 0): Shape {
  const record = recordOf(shape);
  const spans = noSpans();
  const { faces, edges } = structureOf(record, spans);
  const images = new Map<Curve, Uint8Array>();
  for (const face of faces)
    for (const use of face.wires.flat()) {
      const image = face.image(use);
      const point = image && pointsOf(image.curve);
      // Lines at which a face closes on itself stay: they are images twice.
      if (!image || !point || edges[use.edge]!.point || edges[use.edge]!.faces.length < 2) continue;
      const { from } = image;
      const width = image.to - from;
      // A cubic through places of the new image, with the slopes that it has there.
      const place = (share: number) =>
        point(from + change(share) * width).at.map((value) => value + aside * Math.sin(Math.PI * share));
      const beside = (share: number, way: 1 | -1) => {
        const [here, there] = [place(share), place(share + way * 1e-5)];
        return here.map((value, k) => value + (there[k]! - value) / (1e-5 * 3 * COUNT));
      };
      const poles: number[][] = [];
      const knots = [from];
      for (let i = 0; i < COUNT; i++) {
        poles.push(place(i / COUNT), beside(i / COUNT, 1), beside((i + 1) / COUNT, -1));
        const knot = from + (width * i) / COUNT;
        knots.push(knot, knot, knot);
      }
      poles.push(place(1));
      knots.push(...Array<number>(4).fill(image.to));
      images.set(image.curve, writeSpline2({ degree: 3, poles, weights: null, knots, periodic: false }));
    }
  return shapeOfRecord(
    rewritten(
      record,
      [...images].map(([image, bytes]) => [spans.curves.get(image)!, bytes] as const),
    ),
  );
}

const wavy = (points: [number, number][]) => ({
  id: "k",
  type: "sketch",
  on: "xy",
  entities: [
    ...points.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
    { id: "s", type: "spline", points: points.map((_, i) => `p${i}`), form: "through", closed: true },
  ],
});

const BODIES = {
  "a drawn-out free curve, cut off aslant": [
    wavy([
      [30, 0],
      [0, 22],
      [-25, 3],
      [0, -18],
    ]),
    { id: "e", type: "extrude", sketch: ["k"], distance: 20 },
    { id: "p", type: "workplane", base: "normal", normal: [0.3, 0.2, 1], through: [0, 0, 12] },
    { id: "t", type: "seam", preset: "trim", stock: ["e"], cutters: ["p"], keepSide: { p: "back" } },
  ],
  "a cone cut by a plane": [
    { id: "c", type: "cone", diameter: 30, top: 10, height: 40 },
    { id: "p", type: "workplane", base: "normal", normal: [1, 0.2, 0.3], through: [4, 0, 15] },
    { id: "t", type: "seam", preset: "trim", stock: ["c"], cutters: ["p"], keepSide: { p: "back" } },
  ],
  "two bars that cross": [
    { id: "a", type: "cylinder", diameter: 20, height: 60, at: [0, 0, -30] },
    { id: "b", type: "cylinder", diameter: 14, height: 60, at: [0, 0, -30] },
    { id: "m", type: "move", bodies: ["b"], turn: 70, axis: "x" },
    { id: "t", type: "seam", preset: "union", stock: ["a"], cutters: ["m"] },
  ],
};

describe("images of edges on their faces", () => {
  test.each(Object.entries(BODIES))("%s: run along unevenly, they are put in step, and nothing moves", (_, steps) => {
    const { shape } = buildSteps(...steps).bodies.at(-1)!;
    for (const uneven of [0.3, 0.9, -0.5]) {
      const off = disturbed(shape, (x) => x + (uneven * Math.sin(2 * Math.PI * x)) / (2 * Math.PI));
      const before = apart(off);
      expect(before.most).toBeGreaterThan(0.05);
      const made = broughtInStep(off)!;
      const after = apart(made);
      expect(after.most).toBeLessThan(before.most / 100);
      expect(after.beyond).toBeLessThan(1e-6);
      expect(isValid(made)).toBe(true);
      expect(Math.abs(volumeOf(made) / volumeOf(off) - 1)).toBeLessThan(5e-6);
      freeShape(made);
      freeShape(off);
    }
  });

  test.each(Object.entries(BODIES))("%s: where they lie aside, it is noted how far", (_, steps) => {
    const { shape } = buildSteps(...steps).bodies.at(-1)!;
    const off = disturbed(shape, (x) => x, 2e-3);
    const made = broughtInStep(off)!;
    expect(apart(off).beyond).toBeGreaterThan(1e-4);
    expect(apart(made).beyond).toBeLessThan(1e-6);
    expect(widestGap(made)!.size).toBeGreaterThan(1e-4);
    expect(notedGap(made)).toBeGreaterThanOrEqual(widestGap(made)!.size);
    freeShape(off);
    freeShape(made);
  });

  test.each(Object.entries(BODIES))("%s: as it is made, nothing is to be done", (_, steps) => {
    expect(broughtInStep(buildSteps(...steps).bodies.at(-1)!.shape)).toBeNull();
  });
});

describe("solids of other programs, whose edges the library puts on their faces", () => {
  const require = createRequire(import.meta.url);
  const folder = path.join(path.dirname(require.resolve("occt-import-js/package.json")), "test", "testfiles", "cax-if");
  const read = (file: string) => readStepShapes(new Uint8Array(readFileSync(path.join(folder, file)))).shapes[0]!.shape;

  test("circles that bound free faces: out of step by 0.03 mm, and not a thousandth of that after", () => {
    const shape = read("s1_pe_214/main_body_front_prt.stp");
    expect(Math.min(...Object.values(apart(shape)))).toBeGreaterThan(0.03);
    const made = broughtInStep(shape)!;
    expect(apart(made).most).toBeLessThan(1e-6);
    expect(notedGap(made)).toBeLessThan(1e-6);
    expect(isValid(made)).toBe(true);
    expect(volumeOf(made) / volumeOf(shape)).toBeCloseTo(1, 10);
  });

  test("a line that runs along a cone but for the last digit: its face has triangles, and is sound", () => {
    const file = path.join(folder, "..", "conical-surface", "conical-surface.step");
    const shape = readStepShapes(new Uint8Array(readFileSync(file))).shapes[0]!.shape;
    const empty = (of: Shape) =>
      facesOf(of).filter((face) => tessellate(face, { linear: 0.1, angular: 0.3 }).indices.length === 0).length;
    expect([empty(shape), unsoundness(shape, "solid")]).toEqual([1, "invalid"]);
    const made = broughtInStep(shape)!;
    expect([empty(made), unsoundness(made, "solid")]).toEqual([0, null]);
    expect(volumeOf(made)).toBeCloseTo(volumeOf(shape), 9);
  });

  test("edges that lie off a cylinder by 0.003 mm, and are said to lie on it: noted", () => {
    const shape = read("s1_pe_214/tail_turbine_prt.stp");
    expect(notedGap(shape)).toBe(1e-7);
    expect(apart(shape).beyond).toBeGreaterThan(0.0027);
    const made = broughtInStep(shape)!;
    expect(apart(made).beyond).toBeLessThan(1e-6);
    expect(volumeOf(made)).toBe(volumeOf(shape));
  });
});
