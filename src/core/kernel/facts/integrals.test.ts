import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { parseJob } from "../../job";
import { build, buildSteps } from "../../testing/harness";
import { sized, thirtySteps } from "../../testing/thirty-steps";
import { roundEdges, type Worked } from "../change/edge-work";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { loadNodeKernel } from "../library/node";
import { scoped } from "../library/scope";
import { facesOf, type Shape } from "../library/topology";
import { integrate } from "../space/quadrature";
import { distance, length, sub, type Vec3 } from "../space/vectors";
import { boxOf } from "./box";
import { faceIntegrals } from "./integrals";
import { areaOf, surfaceCentre, volumeOf } from "./mass";
import { readPoint } from "./measure";

beforeAll(loadNodeKernel);

/** How many faces of a shape have a closed form, each checked against the library's own integration. */
function checked(shape: Shape): number {
  const oc = lib();
  const structure = incidenceOf(shape);
  let count = 0;
  facesOf(shape).forEach((face, place) => {
    const found = faceIntegrals(structure, place);
    if (!found) return;
    count++;
    scoped((scope) => {
      const properties = scope.use(new oc.GProp_GProps());
      oc.BRepGProp.SurfaceProperties(face, properties, 1e-10, false);
      const area = properties.Mass();
      expect(Math.abs(found.area / area - 1)).toBeLessThan(1e-6);
      const centre = found.moment.map((value) => value / found.area) as unknown as Vec3;
      expect(distance(centre, readPoint(scope, properties.CentreOfMass()))).toBeLessThan(1e-5 * Math.sqrt(area));
    });
  });
  scoped((scope) => {
    const box = scope.use(new oc.Bnd_Box());
    oc.BRepBndLib.AddOptimal(shape, box, false, false);
    const own = boxOf(shape)!;
    expect(distance(own.min, readPoint(scope, box.CornerMin()))).toBeLessThan(1e-5);
    expect(distance(own.max, readPoint(scope, box.CornerMax()))).toBeLessThan(1e-5);
  });
  return count;
}

describe("against the library's own integration and boxes", () => {
  test("every face of the part of thirty steps has a closed form", () => {
    for (const { shape } of build(sized(thirtySteps())).bodies) {
      expect(checked(shape)).toBe(facesOf(shape).length);
      scoped((scope) => {
        const properties = scope.use(new (lib().GProp_GProps)());
        lib().BRepGProp.VolumePropertiesGK(shape, properties, 1e-9, false, true, false, false, false);
        expect(volumeOf(shape) / properties.Mass()).toBeCloseTo(1, 9);
      });
    }
  });

  test("the demo job", () => {
    const job = parseJob(readFileSync(path.join(process.cwd(), "demo", "star-pier.json"), "utf8"));
    const file = () => new Uint8Array(readFileSync(path.join(process.cwd(), "demo", "foot-pad.step")));
    let count = 0;
    for (const part of job.parts)
      for (const { shape } of build({ ...job, parts: [part] }, { file }).bodies) count += checked(shape);
    expect(count).toBeGreaterThan(100);
  });
});

const solid = (...steps: Record<string, unknown>[]) => buildSteps(...steps).bodies.at(-1)!.shape;

describe("by closed form", () => {
  const at = [5, -3, 70];

  test("a frustum, far from the origin", () => {
    const [R, r, h] = [10, 4, 30];
    const shape = solid({ id: "c", type: "cone", diameter: 2 * R, top: 2 * r, height: h, at });
    const slant = Math.hypot(h, R - r);
    expect(volumeOf(shape)).toBeCloseTo((Math.PI * h * (R * R + R * r + r * r)) / 3, 8);
    expect(areaOf(shape)).toBeCloseTo(Math.PI * (R * R + r * r + (R + r) * slant), 8);
  });

  test("a ring and a ball, and where their skins have their middle", () => {
    const ring = solid({ id: "t", type: "torus", diameter: 40, section: 8, at, axis: "x" });
    expect(volumeOf(ring)).toBeCloseTo(2 * Math.PI ** 2 * 20 * 16, 8);
    expect(areaOf(ring)).toBeCloseTo(4 * Math.PI ** 2 * 20 * 4, 8);
    expect(distance(surfaceCentre(ring), at as unknown as Vec3)).toBeLessThan(1e-10);
    const ball = solid({ id: "s", type: "sphere", diameter: 20, at });
    expect(volumeOf(ball)).toBeCloseTo((4 / 3) * Math.PI * 1000, 8);
    expect(boxOf(ball)!.max.map((end, i) => end - at[i]!)).toEqual([10, 10, 10].map((r) => expect.closeTo(r, 7)));
  });

  test("half a ball: the skin of a half sphere has its middle at half its radius", () => {
    const half = solid(
      { id: "s", type: "sphere", diameter: 20 },
      { id: "p", type: "workplane", base: "xy" },
      { id: "t", type: "seam", preset: "trim", stock: ["s"], cutters: ["p"], keepSide: { p: "front" } },
    );
    const place = incidenceOf(half).faces.findIndex(({ surface }) => surface?.kind === "sphere");
    const { area, moment } = faceIntegrals(incidenceOf(half), place)!;
    expect(area).toBeCloseTo(2 * Math.PI * 100, 9);
    expect(length(sub(moment.map((v) => v / area) as unknown as Vec3, [0, 0, 5]))).toBeLessThan(1e-10);
    expect(volumeOf(half)).toBeCloseTo((2 / 3) * Math.PI * 1000, 8);
  });

  test("a bar cut off at 30°: an ellipse of half-axes r and r / cos 30°, and how far it reaches", () => {
    const cut = solid(
      { id: "c", type: "cylinder", diameter: 20, height: 100, at: [0, 0, -50] },
      { id: "p", type: "workplane", base: "xy" },
      { id: "m", type: "move", bodies: ["p"], turn: 30, axis: "y" },
      { id: "t", type: "seam", preset: "trim", stock: ["c"], cutters: ["m"], keepSide: { m: "back" } },
    );
    const { edges, faces } = incidenceOf(cut);
    expect(edges.filter(({ curve }) => curve?.curve.kind === "ellipse").length).toBeGreaterThan(0);
    const slanting = faces.findIndex(
      ({ surface }) => surface?.kind === "plane" && Math.abs(Math.abs(surface.axis[2]) - Math.cos(Math.PI / 6)) < 1e-9,
    );
    expect(faceIntegrals(incidenceOf(cut), slanting)!.area).toBeCloseTo((Math.PI * 100) / Math.cos(Math.PI / 6), 8);
    const box = boxOf(cut)!;
    expect(box.max[2]).toBeCloseTo(10 * Math.tan(Math.PI / 6), 7);
    expect([box.min[0], box.min[1], box.min[2]]).toEqual([-10, -10, -50].map((v) => expect.closeTo(v, 7)));
  });
});

describe("how far parts of balls and rings reach, against the library", () => {
  const halves = (body: Record<string, unknown>, turn: number, axis: string) =>
    buildSteps(
      body,
      { id: "m", type: "move", bodies: [body.id as string], turn, axis, by: [3, 4, 5] },
      { id: "p", type: "workplane", base: "yz", offset: 7 },
      { id: "q", type: "workplane", base: "xy", offset: 6 },
      { id: "t", type: "seam", preset: "split", stock: ["m"], cutters: ["p", "q"] },
    ).bodies;

  test.each([
    { turn: 0, axis: "x" },
    { turn: 35, axis: "x" },
    { turn: 90, axis: "y" },
    { turn: 20, axis: "y" },
  ])("$turn degrees about $axis", ({ turn, axis }) => {
    for (const body of [
      { id: "r", type: "torus", diameter: 40, section: 12 },
      { id: "s", type: "sphere", diameter: 40 },
    ]) {
      const pieces = halves(body, turn, axis);
      expect(pieces.length).toBeGreaterThan(3);
      for (const { shape } of pieces) checked(shape);
    }
  });

  test("a rounded block: eighths of balls; a rounded rim: parts of rings", () => {
    for (const body of [
      { id: "b", type: "box", size: [40, 30, 20] },
      { id: "c", type: "cylinder", diameter: 40, height: 30, at: [70, 0, 0] },
    ]) {
      const shape = solid(body, { id: "m", type: "move", bodies: [body.id], turn: 25, axis: "y" });
      const places = incidenceOf(shape).edges.flatMap(({ curve }, place) =>
        body.type === "box" || curve!.curve.kind === "circle" ? [{ place, radius: 4 }] : [],
      );
      const rounded = roundEdges(shape, places) as Worked;
      expect(facesOf(rounded.shape).length).toBeGreaterThan(4);
      checked(rounded.shape);
    }
  });
});

test("eight points integrate a polynomial of degree fifteen exactly", () => {
  const [value, sine] = integrate(-1, 3, 1, (t) => [t ** 15, Math.sin(t)]);
  expect(value! / ((3 ** 16 - 1) / 16)).toBeCloseTo(1, 12);
  expect(sine).toBeCloseTo(Math.cos(-1) - Math.cos(3), 8);
});
