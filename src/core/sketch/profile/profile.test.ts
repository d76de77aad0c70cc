import fc from "fast-check";
import Coordinate from "jsts/org/locationtech/jts/geom/Coordinate.js";
import GeometryFactory from "jsts/org/locationtech/jts/geom/GeometryFactory.js";
import Polygonizer from "jsts/org/locationtech/jts/operation/polygonize/Polygonizer.js";
import UnaryUnionOp from "jsts/org/locationtech/jts/operation/union/UnaryUnionOp.js";
import { describe, expect, test } from "vitest";
import { SketchMaker } from "../../testing/sketches";
import { type Curve, curvesOf, distance2, pointAt, type Vec2 } from "../curves";
import { nearestParameter } from "./crossings";
import { areaOf, findProfile, surrounds } from "./regions";

/** How many sets are tried: a sample on every run, 10,000 by `npm run proof`. */
const SETS = Number(process.env.PROOF_SETS ?? 1000);

const line = (id: string, from: Vec2, to: Vec2): Curve => ({
  id,
  entity: id,
  closed: false,
  shape: { kind: "line", from, to },
});
const circle = (id: string, centre: Vec2, radius: number): Curve => ({
  id,
  entity: id,
  closed: true,
  shape: { kind: "arc", centre, radius, start: 0, sweep: 2 * Math.PI },
});
const arc = (id: string, centre: Vec2, radius: number, start: number, sweep: number): Curve => ({
  id,
  entity: id,
  closed: false,
  shape: { kind: "arc", centre, radius, start, sweep },
});
const areas = (curves: Curve[]) =>
  findProfile(curves)
    .regions.map(({ area }) => area)
    .sort((a, b) => a - b);
const box = (id: string, x: number, y: number, w: number, h: number): Curve[] => [
  line(`${id}1`, [x, y], [x + w, y]),
  line(`${id}2`, [x + w, y], [x + w, y + h]),
  line(`${id}3`, [x + w, y + h], [x, y + h]),
  line(`${id}4`, [x, y + h], [x, y]),
];

describe("regions by closed form", () => {
  test("a rectangle with two holes, one of them with an island", () => {
    const found = findProfile([
      ...box("a", 0, 0, 60, 40),
      circle("h", [15, 20], 8),
      ...box("b", 30, 10, 20, 20),
      circle("i", [40, 20], 5),
    ]);
    const [round, island] = [Math.PI * 64, Math.PI * 25];
    expect(
      found.regions
        .map(({ area }) => area)
        .sort((a, b) => a - b)
        .map((a) => a.toFixed(9)),
    ).toEqual([island, round, 400 - island, 2400 - round - 400].sort((a, b) => a - b).map((a) => a.toFixed(9)));
    expect(found.openEnds).toEqual([]);
    const plate = found.regions.find(({ holes }) => holes.length === 2)!;
    expect(plate.key).toBe("a1+ a2+ a3+ a4+");
  });

  test("the lens of two circles", () => {
    // 2r² acos(d/2r) − (d/2)√(4r² − d²): Weisstein, Circle–Circle Intersection, MathWorld.
    const [r, d] = [10, 12];
    const lens = 2 * r * r * Math.acos(d / (2 * r)) - (d / 2) * Math.sqrt(4 * r * r - d * d);
    const found = areas([circle("a", [0, 0], r), circle("b", [d, 0], r)]);
    [lens, Math.PI * r * r - lens, Math.PI * r * r - lens]
      .sort((a, b) => a - b)
      .forEach((area, i) => {
        expect(found[i]).toBeCloseTo(area, 9);
      });
  });

  test("a chord divides a circle: the segment", () => {
    const found = areas([circle("a", [0, 0], 10), line("c", [-20, 6], [20, 6])]);
    const segment = 100 * Math.acos(0.6) - 6 * 8;
    expect(found[0]).toBeCloseTo(segment, 9);
    expect(found[1]).toBeCloseTo(100 * Math.PI - segment, 9);
  });

  test("circles that touch, from inside and from outside, and a line that touches both", () => {
    const found = areas([
      circle("a", [0, 0], 10),
      circle("b", [15, 0], 5),
      circle("c", [-4, 0], 6),
      line("t", [0, -10], [0, 10]),
    ]);
    expect(found.reduce((sum, area) => sum + area, 0)).toBeCloseTo(Math.PI * 125, 7);
  });

  test("a slot of lines and arcs; an ellipse; a spline ring: their areas", () => {
    const slot = [
      line("t", [0, 6], [30, 6]),
      line("b", [0, -6], [30, -6]),
      arc("l", [0, 0], 6, Math.PI / 2, Math.PI),
      arc("r", [30, 0], 6, -Math.PI / 2, Math.PI),
    ];
    expect(areas(slot)[0]).toBeCloseTo(360 + Math.PI * 36, 9);
    const d = new SketchMaker();
    d.ellipse("e", [3, 4], [23, 19], 9);
    expect(areas(curvesOf(d.entities))[0]).toBeCloseTo(Math.PI * 25 * 9, 6);
  });

  test("a line across an ellipse and a spline: the parts add up to the whole", () => {
    const d = new SketchMaker();
    d.ellipse("e", [0, 0], [20, 0], 9);
    const whole = areas(curvesOf(d.entities))[0]!;
    d.line("l", [-30, -3], [30, 5]);
    d.entities.push({
      id: "s",
      type: "spline",
      form: "through",
      closed: false,
      points: [d.point("p1", -25, 7), d.point("p2", -5, -6), d.point("p3", 8, 6), d.point("p4", 26, -4)],
      construction: false,
    });
    const parts = areas(curvesOf(d.entities));
    expect(parts.length).toBeGreaterThan(4);
    // What the line and the spline enclose outside the ellipse is more; inside, the parts make the ellipse.
    const inside = findProfile(curvesOf(d.entities)).regions.filter(
      ({ inner: [x, y] }) => (x / 20) ** 2 + (y / 9) ** 2 < 1,
    );
    expect(inside.reduce((sum, { area }) => sum + area, 0)).toBeCloseTo(whole, 6);
  });

  test("a spline that crosses itself makes its loop a region", () => {
    const d = new SketchMaker();
    const points = [
      [0, 0],
      [20, 12],
      [10, 22],
      [0, 12],
      [20, 0],
    ].map(([x, y], i) => d.point(`p${i}`, x!, y!));
    d.entities.push({ id: "s", type: "spline", form: "through", closed: false, points, construction: false });
    const found = findProfile(curvesOf(d.entities));
    expect(found.regions).toHaveLength(1);
    expect(found.regions[0]!.area).toBeGreaterThan(80);
    expect(found.openEnds).toHaveLength(2);
  });

  test("lines drawn twice and over each other count once", () => {
    expect(
      areas([
        ...box("a", 0, 0, 10, 10),
        ...box("b", 10, 2, 5, 6),
        ...box("c", 0, 0, 10, 10),
        line("d", [10, -5], [10, 30]),
      ]),
    ).toEqual([30, 100]);
    expect(areas([circle("a", [0, 0], 5), circle("b", [0, 0], 5)]).map((area) => area.toFixed(9))).toEqual([
      (Math.PI * 25).toFixed(9),
    ]);
    expect(
      areas([arc("a", [0, 0], 5, 0, Math.PI), arc("b", [0, 0], 5, 1, 2 * Math.PI), line("c", [-9, 0], [9, 0])]),
    ).toHaveLength(2);
  });

  test("an outline that does not close says where", () => {
    const found = findProfile([...box("a", 0, 0, 10, 10).slice(0, 3), line("z", [50, 50], [60, 50])]);
    expect(found.regions).toEqual([]);
    expect(found.openEnds.map(({ at, curve }) => `${at.join()} ${curve}`).sort()).toEqual([
      "0,0 a1",
      "0,10 a3",
      "50,50 z",
      "60,50 z",
    ]);
  });

  test("lines without length, and nothing at all", () => {
    expect(findProfile([line("a", [1, 1], [1, 1]), ...box("b", 0, 0, 10, 10)]).regions).toHaveLength(1);
    expect(findProfile([])).toMatchObject({ regions: [], openEnds: [] });
  });

  test("a region keeps its key when sizes change and lines are listed in another order", () => {
    const sheet = (k: number) => [
      ...box("a", 0, 0, 60 * k, 40),
      circle("h", [15 * k, 20], 8),
      line("m", [30 * k, -5], [30 * k, 45]),
    ];
    const keys = findProfile(sheet(1)).regions.map(({ key }) => key);
    expect(keys).toHaveLength(3);
    for (const k of [0.6, 1.5]) expect(findProfile(sheet(k).reverse()).regions.map(({ key }) => key)).toEqual(keys);
  });
});

/** Another finder of polygons, on fine chords: the JTS Topology Suite's noding and Polygonizer. */
function polygons(curves: Curve[]): number[] {
  const factory = new GeometryFactory();
  const lines = curves.map((curve) => {
    const count = curve.shape.kind === "line" ? 1 : 96;
    const points = Array.from({ length: count + 1 }, (_, i) => pointAt(curve, i / count));
    if (curve.closed) points[count] = points[0]!;
    return factory.createLineString(points.map(([x, y]) => new Coordinate(x, y)));
  });
  const polygonizer = new Polygonizer();
  polygonizer.add(UnaryUnionOp.union(factory.createMultiLineString(lines)));
  const found: number[] = [];
  for (const polygon of polygonizer.getPolygons().toArray()) found.push((polygon as { getArea(): number }).getArea());
  return found.sort((a, b) => a - b);
}

/** Whether an end of `a` lies so near to `b`, or the two so nearly touch, that chords may see it otherwise. */
function nearMiss(a: Curve, b: Curve): boolean {
  const depth = (curve: Curve) =>
    curve.shape.kind === "arc" ? curve.shape.radius * (1 - Math.cos(Math.abs(curve.shape.sweep) / 192)) : 0;
  const reach = 2 * (depth(a) + depth(b));
  if (reach === 0) return false;
  const near = (t: number) => {
    const at = pointAt(a, t);
    const other = nearestParameter(b, at);
    return other !== null && distance2(pointAt(b, other), at) < reach;
  };
  if (!a.closed && (near(0) || near(1))) return true;
  if (a.shape.kind !== "arc") return false;
  const away = b.shape.kind === "arc" ? distance2(a.shape.centre, b.shape.centre) : null;
  if (away !== null && b.shape.kind === "arc")
    return [a.shape.radius + b.shape.radius, Math.abs(a.shape.radius - b.shape.radius)].some(
      (touching) => Math.abs(away - touching) < reach,
    );
  const foot = nearestParameter(b, a.shape.centre);
  return foot !== null && Math.abs(distance2(pointAt(b, foot), a.shape.centre) - a.shape.radius) < reach;
}

describe("random lines, circles and arcs", () => {
  const at = fc.integer({ min: -500, max: 500 }).map((value) => value / 10);
  const curve = fc.oneof(
    fc.tuple(at, at, at, at).map(
      ([a, b, c, d]) =>
        (id: string) =>
          line(id, [a, b], [c, d]),
    ),
    fc.tuple(at, at, fc.integer({ min: 20, max: 400 })).map(
      ([a, b, r]) =>
        (id: string) =>
          circle(id, [a, b], r / 10),
    ),
    fc
      .tuple(
        at,
        at,
        fc.integer({ min: 20, max: 400 }),
        fc.integer({ min: 0, max: 359 }),
        fc.integer({ min: 20, max: 340 }),
      )
      .map(
        ([a, b, r, s, w]) =>
          (id: string) =>
            arc(id, [a, b], r / 10, (s * Math.PI) / 180, (w * Math.PI) / 180),
      ),
  );
  const set = fc.array(curve, { minLength: 2, maxLength: 7 }).map((list) => list.map((make, i) => make(`c${i}`)));

  test("regions do not overlap, each holds its inner point, and together they fill their outlines", () => {
    let regions = 0;
    fc.assert(
      fc.property(set, (curves) => {
        const found = findProfile(curves);
        regions += found.regions.length;
        for (const region of found.regions) {
          expect(region.area).toBeGreaterThan(0);
          // Green's theorem on the boundary gives the area that the parts add up to.
          expect(areaOf([...region.outline, ...region.holes.flat()])).toBeCloseTo(region.area, 6);
          if (region.area < 1e-3) continue;
          expect(surrounds(region.outline, region.inner)).toBe(true);
          for (const hole of region.holes) expect(surrounds(hole, region.inner)).toBe(false);
          const homes = found.regions.filter(
            (other) =>
              surrounds(other.outline, region.inner) && !other.holes.some((hole) => surrounds(hole, region.inner)),
          );
          expect(homes).toEqual([region]);
        }
      }),
      { numRuns: 3000, seed: 20261125 },
    );
    expect(regions).toBeGreaterThan(6000);
  });

  test(`${SETS} sets: the same areas as another finder on fine chords, within the chords' error`, () => {
    let compared = 0;
    fc.assert(
      fc.property(set, (curves) => {
        // A chord of 1/96 of a turn leaves out r²(θ − sin θ)/2 of its segment.
        const slack = curves.reduce((sum, { shape }) => {
          if (shape.kind !== "arc") return sum;
          const theta = Math.abs(shape.sweep) / 96;
          return sum + (96 * shape.radius ** 2 * (theta - Math.sin(theta))) / 2;
        }, 1e-6);
        // An end that stops short of a curve by less than a chord's depth meets the chord and not the curve, or the reverse.
        if (curves.some((curve) => curves.some((other) => other !== curve && nearMiss(curve, other)))) return;
        const big = (list: number[]) => list.filter((area) => area > 2 * slack);
        const [mine, theirs] = [areas(curves), polygons(curves)];
        const total = (list: number[]) => list.reduce((sum, area) => sum + area, 0);
        expect(Math.abs(total(mine) - total(theirs))).toBeLessThan(2 * slack);
        if (big(mine).length === big(theirs).length) {
          compared++;
          big(theirs).forEach((area, i) => {
            expect(Math.abs(big(mine)[i]! - area)).toBeLessThan(2 * slack);
          });
        }
      }),
      { numRuns: SETS, seed: 5 },
    );
    expect(compared).toBeGreaterThan(0.94 * SETS);
  });
});
