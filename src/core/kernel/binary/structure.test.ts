import { readFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, test } from "vitest";
import { parseJob } from "../../job";
import { build, buildSteps } from "../../testing/harness";
import { partsByChance } from "../../testing/jobs-by-chance";
import { sized, thirtySteps } from "../../testing/thirty-steps";
import { fuse } from "../divide/fuse";
import { readPoint } from "../facts/measure";
import { edgeHandles, incidenceOf, recordOf, vertexHandles } from "../library/incidence";
import { lib } from "../library/library";
import { loadNodeKernel } from "../library/node";
import { type Scope, scoped } from "../library/scope";
import {
  asEdge,
  asFace,
  compound,
  facesOf,
  occurrences,
  type Shape,
  ShapeMap,
  shapeKind,
  subshapes,
} from "../library/topology";
import { makeBox, makePlaneFace } from "../make/primitives";
import { distance, type Vec3 } from "../space/vectors";
import { derivativesOf, pointsOf } from "./curve-at";
import { type Structure, structureOf, structuresWithin } from "./structure";
import { PATCH_NUMBERS, patchOfAny } from "./surface-at";

beforeAll(loadNodeKernel);

const bounding = (shape: Shape) => !/INTERNAL|EXTERNAL/.test(shape.Orientation() as string);

/** What the library says when it is asked part by part: the other way to the same numbers. */
function asked(scope: Scope, shape: Shape) {
  const oc = lib();
  const faces = facesOf(shape);
  const numbers = (parts: readonly Shape[]) => {
    const map = new ShapeMap<number>();
    parts.forEach((part, i) => {
      map.set(part, i);
    });
    return map;
  };
  const [facePlaces, edgePlaces, vertexPlaces] = [
    numbers(faces),
    numbers(edgeHandles(shape)),
    numbers(vertexHandles(shape)),
  ];
  return {
    shells: subshapes(scope, shape, "shell").map((shell) =>
      subshapes(scope, shell, "face").map((face) => facePlaces.get(face)),
    ),
    faces: faces.map((face) => ({
      bounds: bounding(face),
      wires: occurrences(scope, face, "wire").map((wire) =>
        occurrences(scope, wire, "edge").map((edge) => ({ edge: edgePlaces.get(edge), bounds: bounding(edge) })),
      ),
    })),
    edges: edgeHandles(shape).map((edge) => ({
      point: oc.BRep_Tool.Degenerated(edge),
      faces: faces.flatMap((face, f) => (occurrences(scope, face, "edge").some((e) => e.IsSame(edge)) ? [f] : [])),
      uses: faces
        .filter((face) => (face.Orientation() as string) !== "TopAbs_INTERNAL")
        .flatMap((face) => occurrences(scope, face, "edge"))
        .filter((e) => bounding(e) && e.IsSame(edge)).length,
      vertices: occurrences(scope, edge, "vertex")
        .filter(bounding)
        .map((vertex) => vertexPlaces.get(vertex)),
    })),
    vertices: vertexHandles(shape).map((vertex) => readPoint(scope, oc.BRep_Tool.Pnt(vertex))),
  };
}

/** Checks a shape's record against what the library answers. */
function check(shape: Shape): void {
  const found = incidenceOf(shape);
  scoped((scope) => {
    const told = asked(scope, shape);
    expect(found.shells).toEqual(told.shells);
    expect(
      found.faces.map(({ bounds, wires }) => ({
        bounds,
        wires: wires.map((wire) => wire.map(({ edge, bounds: b }) => ({ edge, bounds: b }))),
      })),
    ).toEqual(told.faces);
    expect(found.edges.map(({ curve: _curve, tolerance: _tolerance, toleranceAt: _at, ...rest }) => rest)).toEqual(
      told.edges,
    );
    found.vertices.forEach(({ at }, v) => {
      expect(distance(at, told.vertices[v]!)).toBeLessThan(1e-12);
    });
    found.edges.forEach(({ curve }, e) => {
      checkCurve(scope, edgeHandles(shape)[e]!, curve);
    });
    found.faces.forEach((face, f) => {
      checkFace(scope, facesOf(shape)[f]!, face);
    });
  });
}

function checkCurve(scope: Scope, edge: Shape, told: ReturnType<typeof incidenceOf>["edges"][number]["curve"]): void {
  const oc = lib();
  if (oc.BRep_Tool.Degenerated(asEdge(scope, edge))) return;
  const adaptor = scope.use(new oc.BRepAdaptor_Curve(asEdge(scope, edge)));
  const { curve, from, to } = told!;
  expect([from, to]).toEqual([adaptor.FirstParameter(), adaptor.LastParameter()]);
  const kind = adaptor.GetType() as string;
  expect(curve.kind === "line").toBe(kind === "GeomAbs_Line");
  expect(curve.kind === "circle").toBe(kind === "GeomAbs_Circle");
  expect(curve.kind === "hyperbola").toBe(kind === "GeomAbs_Hyperbola");
  expect(curve.kind === "parabola").toBe(kind === "GeomAbs_Parabola");
  const points = pointsOf(curve);
  if (curve.kind !== "spline") expect(points).not.toBeNull();
  for (const t of [from, 0.3 * from + 0.7 * to, to]) {
    if (!points) break;
    const own = points(t);
    expect(distance(readPoint(scope, adaptor.Value(t)), own.at as unknown as Vec3)).toBeLessThan(1e-10);
    expect(distance(readPoint(scope, adaptor.DN(t, 1)), own.slope as unknown as Vec3)).toBeLessThan(1e-9);
    const derivatives = new Float64Array(9);
    derivativesOf(curve)!.at(t, derivatives);
    expect(distance(readPoint(scope, adaptor.DN(t, 2)), [...derivatives.slice(6)] as unknown as Vec3)).toBeLessThan(
      1e-7,
    );
  }
}

function checkFace(scope: Scope, face: Shape, told: ReturnType<typeof incidenceOf>["faces"][number]): void {
  const oc = lib();
  const { surface, forward, wires } = told;
  expect(forward).toBe((face.Orientation() as string) !== "TopAbs_REVERSED");
  const adaptor = scope.use(new oc.BRepAdaptor_Surface(asFace(scope, face), true));
  const [u, v] = [0.4 * adaptor.FirstUParameter(), 0.6].map((t) => (Math.abs(t) > 1e6 ? 1 : t)) as [number, number];
  if (!surface || !("axis" in surface)) return;
  const at = readPoint(scope, adaptor.Value(u, v));
  const numbers = new Float64Array(PATCH_NUMBERS);
  patchOfAny(surface)!.at(u, v, numbers);
  const own = (k: number) => [...numbers.slice(3 * k, 3 * k + 3)] as unknown as Vec3;
  expect(distance(at, own(0))).toBeLessThan(1e-10);
  for (const [k, orders] of [
    [1, 0],
    [0, 1],
    [2, 0],
    [1, 1],
    [0, 2],
  ].entries())
    expect(distance(readPoint(scope, adaptor.DN(u, v, orders[0]!, orders[1]!)), own(k + 1))).toBeLessThan(1e-10);

  // An image of an edge on the surface runs where the edge does.
  const lying = scope.use(asFace(scope, face).Oriented("TopAbs_FORWARD" as never));
  const edges = occurrences(scope, lying, "edge");
  const flat = wires.flat();
  expect(edges.map((edge) => ((edge.Orientation() as string) === "TopAbs_REVERSED" ? -1 : 1))).toEqual(
    flat.map(({ way }) => way),
  );
  if (surface.kind === "plane") return;
  flat.forEach((use, i) => {
    const image = told.image(use)!;
    if (image.curve.kind !== "line") return;
    const curve = scope.use(new oc.BRepAdaptor_Curve2d(asEdge(scope, edges[i]!), asFace(scope, lying)));
    for (const t of [image.from, image.to]) {
      const point = scope.use(curve.Value(t));
      expect(image.curve.at[0]! + t * image.curve.way[0]!).toBeCloseTo(point.X(), 10);
      expect(image.curve.at[1]! + t * image.curve.way[1]!).toBeCloseTo(point.Y(), 10);
    }
  });
}

describe("a shape's own record says what the library says", () => {
  test("of the part of thirty steps, and of all that it went through", () => {
    const { results } = build(sized(thirtySteps()));
    for (const { made } of results.values()) for (const item of made) if ("shape" in item) check(item.shape);
  });

  test("of every part of the demo job", () => {
    const job = parseJob(readFileSync(path.join(process.cwd(), "demo", "star-pier.json"), "utf8"));
    for (const part of job.parts) {
      const file = () => new Uint8Array(readFileSync(path.join(process.cwd(), "demo", "foot-pad.step")));
      for (const { shape } of build({ ...job, parts: [part] }, { file }).bodies) check(shape);
    }
  });

  test("of bodies moved, mirrored, patterned and moved back, and of sheets", () => {
    const { bodies } = buildSteps(
      { id: "c", type: "cone", diameter: 20, top: 0, height: 30, at: [5, 0, 0] },
      { id: "t", type: "torus", diameter: 40, section: 8, at: [60, 0, 0] },
      { id: "m", type: "move", bodies: ["c"], by: [3, 4, 5], copy: true },
      { id: "n", type: "move", bodies: ["m"], by: [-3, -4, -5], copy: true },
      { id: "i", type: "mirror", bodies: ["c", "t"] },
      { id: "p", type: "pattern", bodies: ["t"], count: 3, spacing: 60 },
      { id: "s", type: "sphere", diameter: 30, at: [-60, 0, 0] },
    );
    expect(bodies.length).toBeGreaterThan(6);
    for (const { shape } of bodies) check(shape);
  });

  test("of cones cut by planes steeper than their sides, along them and across, as made and mirrored", () => {
    const { bodies } = buildSteps(
      { id: "c", type: "cone", diameter: 20, top: 8, height: 30, at: [1, 2, 3] },
      { id: "m", type: "mirror", bodies: ["c"], keep: true },
      { id: "steep", type: "workplane", base: "yz", offset: 3 },
      { id: "along", type: "workplane", base: "normal", normal: [30, 0, 6], through: [0, 0, 10] },
      { id: "across", type: "workplane", base: "normal", normal: [0.2, 0.1, 1], through: [0, 0, 14] },
      { id: "s", type: "seam", preset: "split", stock: ["c"], cutters: ["steep", "along", "across"] },
      { id: "t", type: "seam", preset: "split", stock: ["m"], cutters: ["steep", "along", "across"] },
    );
    const kinds = new Set(
      bodies.flatMap(({ shape }) => incidenceOf(shape).edges.map((edge) => edge.curve?.curve.kind)),
    );
    expect([...kinds].sort()).toEqual(["circle", "ellipse", "hyperbola", "line", "parabola"]);
    for (const { shape } of bodies) check(shape);
  });

  test("of a solid with a face that lies inside it without dividing it", () => {
    const [box, face] = [makeBox([0, 0, 0], [10, 10, 10]), makePlaneFace([5, 5, 5], [0, 0, 1], 2)];
    const fusion = fuse([box, face]);
    const [cell] = fusion.cells;
    expect(cell!.faces.filter(({ sign }) => sign === 0)).toHaveLength(1);
    expect(shapeKind(cell!.shape)).toBe("solid");
    check(cell!.shape);
    fusion.free();
  });
});

test("many shapes read from one record have the structures that each has alone", () => {
  for (const { steps } of partsByChance(12)) {
    const shapes = buildSteps(...steps).bodies.map(({ shape }) => shape);
    const record = scoped((scope) => recordOf(scope.use(compound(shapes))));
    const together = structuresWithin(record);
    shapes.forEach((shape, i) => {
      expect(plain(together[i]!)).toBe(plain(structureOf(recordOf(shape))));
    });
  }
});

/** A structure with the images that its edges have, and without where in a record its numbers stand. */
function plain(structure: Structure): string {
  return JSON.stringify({
    ...structure,
    faces: structure.faces.map(({ image, wires, ...face }) => ({ ...face, wires, images: wires.flat().map(image) })),
    edges: structure.edges.map(({ toleranceAt, ...edge }) => edge),
    vertices: structure.vertices.map(({ toleranceAt, ...vertex }) => vertex),
  });
}

test("a record of another version is refused", () => {
  const text = new TextEncoder().encode("\nOpen CASCADE Topology V9, (c) Open Cascade\nLocations 0\n");
  expect(() => structureOf(text)).toThrow("another version");
});
