import { beforeAll, describe, expect, test } from "vitest";
import { type Poles, splinePoles } from "../../sketch/spline";
import { buildSteps } from "../../testing/harness";
import { derivativesOf } from "../binary/curve-at";
import { type SplineData, unwrapped } from "../binary/spline-data";
import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { loadNodeKernel } from "../library/node";
import { scoped } from "../library/scope";
import { facesOf, type Shape } from "../library/topology";
import { tessellate } from "../mesh/tessellate";
import { integrate, integrateTo } from "../space/quadrature";
import { add, cross, distance, length, scale, sub, type Vec3 } from "../space/vectors";
import { faceIntegrals } from "./integrals";
import { areaOf, surfaceCentre, volumeOf } from "./mass";

beforeAll(loadNodeKernel);

type Place = [number, number];

/** A wavy ring of points. */
const ring = (count: number, radius: number, wave: number): Place[] =>
  Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    const r = radius + (i % 2 ? wave : -wave);
    return [r * Math.cos(angle), r * Math.sin(angle)];
  });

const drawn = (id: string, places: readonly Place[], closed: boolean, more: Record<string, unknown> = {}) => ({
  id,
  type: "sketch",
  on: "xy",
  ...more,
  entities: [
    ...places.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
    { id: "s", type: "spline", points: places.map((_, i) => `p${i}`), form: "through", closed },
  ],
});

/** What a closed curve encloses, how long it is, and the first moment of what it encloses about the Y axis: from the drawing. */
function measured(poles: Poles): { area: number; length: number; moment: number } {
  const breaks = poles.breaks();
  const sums = [0, 0, 0];
  for (let i = 1; i < breaks.length; i++)
    integrate(breaks[i - 1]!, breaks[i]!, 20, (t) => {
      const [[x, y], [dx, dy]] = [poles.at(t), poles.slope(t)];
      return [(x * dy - y * dx) / 2, Math.hypot(dx, dy), (x * x * dy) / 2];
    }).forEach((value, k) => {
      sums[k]! += value;
    });
  return { area: sums[0]!, length: sums[1]!, moment: sums[2]! };
}

const closed = (places: readonly Place[]) => measured(splinePoles(places, { form: "through", closed: true }));
const last = (...steps: Record<string, unknown>[]) => buildSteps(...steps).bodies.at(-1)!.shape;

describe("against closed forms", () => {
  const outline = ring(12, 30, 2);
  const { area, length: round } = closed(outline);

  test("a drawn-out spline: base times height, round times height", () => {
    const shape = last(drawn("k", outline, true), { id: "e", type: "extrude", sketch: ["k"], distance: 20 });
    expect(volumeOf(shape) / (20 * area)).toBeCloseTo(1, 9);
    expect(areaOf(shape) / (20 * round + 2 * area)).toBeCloseTo(1, 9);
    expect(surfaceCentre(shape)[2]).toBeCloseTo(10, 6);
  });

  test("hollowed: what lies d within a smooth outline has the area A − L d + π d² (Steiner)", () => {
    const d = 2;
    const shape = last(
      drawn("k", outline, true),
      { id: "e", type: "extrude", sketch: ["k"], distance: 20 },
      { id: "h", type: "shell", body: ["e"], thickness: d, open: [] },
    );
    const inner = area - round * d + Math.PI * d * d;
    expect(volumeOf(shape) / (20 * area - (20 - 2 * d) * inner)).toBeCloseTo(1, 6);
  });

  test("a turned spline: area times the way of its middle (Pappus)", () => {
    const outline = ring(10, 8, 0.5).map(([x, y]): Place => [x + 30, y]);
    const { moment } = closed(outline);
    for (const angle of [360, 100]) {
      const shape = last(drawn("k", outline, true), {
        id: "r",
        type: "revolve",
        sketch: ["k"],
        axis: "y",
        extent: angle === 360 ? "full" : "angle",
        angle,
      });
      expect(volumeOf(shape) / (moment * ((angle * Math.PI) / 180))).toBeCloseTo(1, 9);
    }
  });

  test("between two outlines in straight lines: the prismoidal formula h (A + 4 M + B) / 6", () => {
    const [low, high] = [ring(8, 30, 2), ring(8, 20, 1)];
    const shape = last(
      drawn("k", low, true),
      { id: "w", type: "workplane", base: "xy", offset: 40 },
      drawn("m", high, true, { on: "workplane", plane: ["w"] }),
      { id: "l", type: "loft", sections: ["k", "m"] },
    );
    const cut = buildSteps(
      drawn("k", low, true),
      { id: "w", type: "workplane", base: "xy", offset: 40 },
      drawn("m", high, true, { on: "workplane", plane: ["w"] }),
      { id: "l", type: "loft", sections: ["k", "m"] },
      { id: "p", type: "workplane", base: "xy", offset: 20 },
      { id: "c", type: "seam", preset: "split", stock: ["l"], cutters: ["p"] },
    ).bodies;
    expect(cut.length).toBe(2);
    const structure = incidenceOf(cut[0]!.shape);
    const section = structure.faces.findIndex(
      ({ surface }) => surface?.kind === "plane" && Math.abs(surface.at[2] - 20) < 1e-9,
    );
    const m = faceIntegrals(structure, section)!.area;
    const wanted = (40 * (closed(low).area + 4 * m + closed(high).area)) / 6;
    expect(volumeOf(shape) / wanted).toBeCloseTo(1, 6);
    expect(volumeOf(cut[0]!.shape) + volumeOf(cut[1]!.shape)).toBeCloseTo(volumeOf(shape), 2);
  });
});

/** The area and the middle of fine triangles of a whole shape, face by face. */
function byTriangles(shape: Shape): { area: number; centre: Vec3 }[] {
  const { positions, indices, faceRanges } = tessellate(shape, { linear: 0.005, angular: 0.1 });
  const corner = (i: number): Vec3 => [0, 1, 2].map((k) => positions[3 * indices[i]! + k]!) as unknown as Vec3;
  return facesOf(shape).map((_, face) => {
    let [area, moment]: [number, Vec3] = [0, [0, 0, 0]];
    const [first, count] = [faceRanges[2 * face]!, faceRanges[2 * face + 1]!];
    for (let t = first; t < first + count; t += 3) {
      const [a, b, c] = [corner(t), corner(t + 1), corner(t + 2)];
      const own = length(cross(sub(b, a), sub(c, a))) / 2;
      area += own;
      moment = add(moment, scale(add(a, add(b, c)), own / 3));
    }
    return { area, centre: scale(moment, 1 / area) };
  });
}

/** Every free face against triangles: the library's own adaptive integration of areas was seen to be off by 4 % there. */
function checked(shape: Shape): { kind: string; area: number }[] {
  const structure = incidenceOf(shape);
  const fine = byTriangles(shape);
  return structure.faces.flatMap(({ surface }, place) => {
    if (!surface || "axis" in surface) return [];
    const found = faceIntegrals(structure, place)!;
    expect(found, surface.kind).not.toBeNull();
    const { area, centre } = fine[place]!;
    // Triangles cut corners along the edges, too.
    const off = 1e-3 * area + 0.02 * Math.sqrt(area);
    expect(Math.abs(found.area - area), surface.kind).toBeLessThan(off);
    expect(distance(scale(found.moment, 1 / found.area), centre)).toBeLessThan((2 * off) / Math.sqrt(area));
    const rough = faceIntegrals(structure, place, true)!;
    expect(Math.abs(rough.area / found.area - 1)).toBeLessThan(1e-3);
    return [{ kind: surface.kind, area: found.area }];
  });
}

test("faces of every free kind, cut by flat and round things and moved, against triangles", () => {
  const turned = (id: string) => [
    drawn(
      "k",
      ring(10, 8, 0.5).map(([x, y]): Place => [x + 30, y]),
      true,
    ),
    { id, type: "revolve", sketch: ["k"], axis: "y" },
  ];
  const straight = (id: string) => [
    drawn("k", ring(8, 30, 2), true),
    { id, type: "extrude", sketch: ["k"], distance: 20 },
  ];
  const between = (id: string) => [
    drawn("k", ring(8, 30, 2), true),
    { id: "w", type: "workplane", base: "xy", offset: 40 },
    drawn("m", ring(8, 20, 1), true, { on: "workplane", plane: ["w"] }),
    { id, type: "loft", sections: ["k", "m"] },
  ];
  const seen = [turned, straight, between].flatMap((make) => {
    const moved = [
      ...make("a"),
      { id: "mv", type: "move", bodies: ["a"], turn: 25, axis: "x", by: [3, -4, 5] },
      { id: "ball", type: "sphere", diameter: 40, at: [25, 5, 12] },
    ];
    const whole = checked(buildSteps(...moved).bodies.find(({ id }) => id.startsWith("a:"))!.shape);
    const cut = { id: "cut", type: "seam", preset: "split", stock: ["mv"], cutters: ["ball"], keepCutters: false };
    const { bodies } = buildSteps(...moved, cut);
    expect(bodies.length).toBeGreaterThan(1);
    const parts = bodies.flatMap(({ shape }) => checked(shape));
    // What is cut has the area of what it was cut from.
    const sum = (list: readonly { area: number }[]) => list.reduce((all, { area }) => all + area, 0);
    expect(sum(parts) / sum(whole)).toBeCloseTo(1, 8);
    return parts;
  });
  expect(new Set(seen.map(({ kind }) => kind))).toEqual(new Set(["revolution", "extrusion", "spline"]));
});

test("a spline that goes round on is the same curve written as one that does not", () => {
  const poles = ring(7, 10, 1).map(([x, y], i): Vec3 => [x, y, i]);
  for (const times of [1, 2])
    scoped((scope) => {
      const oc = lib();
      const places = scope.use(new oc.NCollection_Array1_gp_Pnt(1, poles.length));
      poles.forEach((at, i) => {
        places.SetValue(i + 1, scope.use(new oc.gp_Pnt(...at)));
      });
      // Seven poles: simple knots, or the first (which is the last) twice and one less.
      const count = poles.length - (times - 1) + 1;
      const knots = scope.use(new oc.NCollection_Array1_double(1, count));
      const multiplicities = scope.use(new oc.NCollection_Array1_int(1, count));
      const written: number[] = [];
      for (let i = 0; i < count; i++) {
        const knot = i + 0.1 * Math.sin(i);
        const often = i === 0 || i === count - 1 ? times : 1;
        knots.SetValue(i + 1, knot);
        multiplicities.SetValue(i + 1, often);
        for (let k = 0; k < often; k++) written.push(knot);
      }
      const curve = scope.use(new oc.Geom_BSplineCurve(places, knots, multiplicities, 3, true));
      const spline: SplineData = {
        degree: 3,
        poles: poles.map((at) => [...at]),
        weights: null,
        knots: written,
        periodic: true,
      };
      expect(unwrapped(spline).poles.length).toBe(poles.length + 4 - times);
      const own = derivativesOf({ kind: "spline", digest: "", spline: () => spline })!;
      const into = new Float64Array(9);
      for (let t = written[0]! + 1e-9; t < written.at(-1)!; t += 0.17) {
        own.at(t, into);
        const [at, d1, d2] = [scope.use(new oc.gp_Pnt()), scope.use(new oc.gp_Vec()), scope.use(new oc.gp_Vec())];
        curve.D2(t, at, d1, d2);
        const asked = [at, d1, d2].flatMap((v) => [v.X(), v.Y(), v.Z()]);
        for (let i = 0; i < 9; i++) expect(into[i]).toBeCloseTo(asked[i]!, 9);
      }
    });
});

test("an integral is taken to an accuracy, over a place where the function breaks, too; what will not settle says so", () => {
  const total = new Float64Array(1);
  const kink = (t: number, into: Float64Array) => {
    into[0] = Math.abs(t - 0.3) ** 1.5;
  };
  expect(integrateTo(1e-10, 0, 1, kink, [1], total)).toBe(true);
  expect(total[0]).toBeCloseTo((0.3 ** 2.5 + 0.7 ** 2.5) / 2.5, 9);
  const wild = (t: number, into: Float64Array) => {
    into[0] = 1 / (t - 0.3);
  };
  expect(integrateTo(1e-10, 0, 1, wild, [1], new Float64Array(1))).toBe(false);
});
