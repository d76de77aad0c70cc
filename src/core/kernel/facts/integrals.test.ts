import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { parseJob } from "../../job";
import { build, buildSteps } from "../../testing/harness";
import { sized, thirtySteps } from "../../testing/thirty-steps";
import type { EdgeUse, FaceStructure, Structure } from "../binary";
import { roundEdges, type Worked } from "../change/edge-work";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { loadNodeKernel } from "../library/node";
import { scoped } from "../library/scope";
import { facesOf, type Shape } from "../library/topology";
import { integrate } from "../space/quadrature";
import { distance, length, sub, type Vec3 } from "../space/vectors";
import { boxOf } from "./box";
import { freeIntegrals } from "./free-integrals";
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

describe("a cone cut by planes, against closed forms", () => {
  const [R, H] = [12, 30];
  const cut = (plane: Record<string, unknown>, side: "front" | "back") =>
    solid(
      { id: "c", type: "cone", diameter: 2 * R, top: 0, height: H },
      { id: "p", type: "workplane", ...plane },
      { id: "t", type: "seam", preset: "trim", stock: ["c"], cutters: ["p"], keepSide: { p: side } },
    );
  const flatAreas = (shape: Shape, kind: string) => {
    const structure = incidenceOf(shape);
    return structure.faces.flatMap(({ surface, wires }, place) =>
      surface?.kind === "plane" && wires.flat().some(({ edge }) => structure.edges[edge]!.curve?.curve.kind === kind)
        ? [faceIntegrals(structure, place)!.area]
        : [],
    );
  };

  // ∫ 2 √(r² − d²) dz over the heights where the cone is wider than the plane is far, and ∫ of that over d.
  test.each([0.001, 3, 7.5, 11.9])("beside its axis, at %d: a hyperbola", (d) => {
    const shape = cut({ base: "yz", offset: d }, "front");
    const root = Math.sqrt(R * R - d * d);
    const section = (H / R) * (R * root - d * d * Math.acosh(R / d));
    const volume = (H / 3) * (R * R * Math.acos(d / R) - 2 * d * root + (d ** 3 / R) * Math.acosh(R / d));
    expect(flatAreas(shape, "hyperbola")[0]! / section).toBeCloseTo(1, 9);
    // The library's image of the hyperbola on the cone is a spline, near to 1e-7 mm.
    expect(volumeOf(shape) / volume).toBeCloseTo(1, 7);
    expect(boxOf(shape)!.max[2]).toBeCloseTo(H * (1 - d / R), 6);
  });

  // Archimedes: a segment of a parabola is two thirds of its chord times its height.
  test.each([-6, 0, 4, 10])("along its side, from %d: a parabola", (e) => {
    const shape = cut({ base: "normal", normal: [H, 0, R], through: [e, 0, 0] }, "back");
    const [chord, side] = [2 * Math.sqrt(R * R - e * e), Math.hypot(R, H)];
    const section = (2 / 3) * chord * ((e + R) / (2 * R)) * side;
    const base = R * R * (Math.PI - Math.acos(e / R)) + (e * chord) / 2;
    const volume = (H * base) / 3 - (section * H * (R - e)) / side / 3;
    expect(flatAreas(shape, "parabola")[0]! / section).toBeCloseTo(1, 9);
    expect(volumeOf(shape) / volume).toBeCloseTo(1, 9);
    expect(boxOf(shape)!.max[2]).toBeCloseTo((H * (e + R)) / (2 * R), 6);
  });
});

test("elementary faces as on free ones: the same two ways, as made and mirrored", () => {
  const { bodies } = buildSteps(
    { id: "c", type: "cone", diameter: 20, top: 8, height: 30, at: [40, 3, 2] },
    { id: "z", type: "cylinder", diameter: 20, height: 30, at: [80, -4, 7] },
    { id: "s", type: "sphere", diameter: 20, at: [-40, 5, 6] },
    { id: "t", type: "torus", diameter: 20, section: 7, at: [0, 5, 9], axis: "x" },
    { id: "m", type: "mirror", bodies: ["c", "z", "s", "t"], keep: true },
    { id: "p", type: "workplane", base: "normal", normal: [0.2, 1, 0.4], through: [0, 4, 9] },
    { id: "d", type: "seam", preset: "split", stock: ["c", "z", "s", "t"], cutters: ["p"] },
  );
  let count = 0;
  for (const { shape } of bodies) {
    const structure = incidenceOf(shape);
    structure.faces.forEach((face, place) => {
      if (!face.surface || !("axis" in face.surface)) return;
      const uses = face.wires.flat().filter(({ bounds }) => bounds);
      // A plane's edges have images where the division needed them alone.
      const free = freeIntegrals(structure, face, uses, false);
      if (!free && face.surface.kind === "plane") return;
      const own = faceIntegrals(structure, place)!;
      const sign = face.forward ? 1 : -1;
      expect(free!.area / own.area).toBeCloseTo(1, 7);
      expect((sign * free!.flux) / own.flux).toBeCloseTo(1, 6);
      for (let i = 0; i < 3; i++) expect(Math.abs(free!.moment[i]! - own.moment[i]!)).toBeLessThan(1e-5 * own.area);
      count++;
    });
  }
  expect(count).toBeGreaterThan(20);
});

test("a surface whose integrals settle nowhere is given up, and soon", () => {
  // Its weights go through 0 within: no number of halvings helps.
  const weights = [
    [1, 1, 1],
    [-3, -2, -3],
    [1, 1, 1],
  ];
  const poles = weights.map((row, i) => row.map((_, j): Vec3 => [i, j, (i * j) % 2]));
  const ends = [0, 0, 0, 1, 1, 1];
  const surface = {
    kind: "spline" as const,
    digest: "",
    spline: () => ({
      degrees: [2, 2] as [number, number],
      poles,
      weights,
      knots: [ends, ends] as [number[], number[]],
      periodic: [false, false] as [boolean, boolean],
    }),
  };
  const corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const;
  const face = {
    surface,
    image: ({ edge }: EdgeUse) => {
      const [at, to] = [corners[edge]!, corners[(edge + 1) % 4]!];
      return { curve: { kind: "line" as const, at, way: [to[0] - at[0], to[1] - at[1]] }, from: 0, to: 1 };
    },
  } as unknown as FaceStructure;
  const uses = corners.map((_, edge): EdgeUse => ({ edge, bounds: true, way: 1 }));
  const edges = corners.map((_, edge) => ({ vertices: [edge, (edge + 1) % 4] }));
  expect(freeIntegrals({ edges } as unknown as Structure, face, uses, false)).toBeNull();
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
