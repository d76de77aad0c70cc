import DxfParser from "dxf-parser";
import fc from "fast-check";
import { beforeAll, describe, expect, test } from "vitest";
import { measureBetween, measureThing } from "../../check";
import { type CurveSpan, lengthOf, spanAt, spanSlope } from "../../curve/span";
import { fromStored, toStored } from "../../evaluate";
import { outItems, writeItems } from "../../exchange";
import { parseRecords } from "../../exchange/step/part21";
import type { CurveItem } from "../../items";
import { cross, distance, dot, length, sub, unit, type Vec3 } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative, volumeOfStep } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Point = [at: readonly unknown[], by?: "line" | "spline"];
const step = (points: readonly Point[], more: Record<string, unknown> = {}) => ({
  id: "c",
  type: "curve",
  points: points.map(([at, by = "line"], i) => ({ id: `p${i + 1}`, at, by })),
  ...more,
});
const built = (points: readonly Point[], more: Record<string, unknown> = {}, ...after: Record<string, unknown>[]) =>
  buildSteps(step(points, more), ...after);
const curveOf = (result: ReturnType<typeof buildSteps>, id = "c:curve"): CurveItem => {
  expect(result.step("c").error ?? null).toBeNull();
  return result.bench.find(({ item }) => item.id === id)!.item as CurveItem;
};
const made = (points: readonly Point[], more: Record<string, unknown> = {}) => curveOf(built(points, more)).spans;

/** By a chain of very short chords: never longer than the curve, and hardly shorter. */
const chordLength = (spans: readonly CurveSpan[]): number =>
  spans.reduce((sum, span) => {
    const places = Array.from({ length: 20_001 }, (_, i) => spanAt(span, i / 20_000));
    return places.slice(1).reduce((part, at, i) => part + distance(places[i]!, at), sum);
  }, 0);

const places = fc
  .array(
    fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })),
    {
      minLength: 3,
      maxLength: 9,
    },
  )
  .filter((all) => all.every((at, i) => distance(at, all[(i + 1) % all.length]!) > 1));

describe("a curve through points", () => {
  test("straight parts: its length by Pythagoras, its corners where they are drawn", () => {
    const spans = made([[[0, 0, 0]], [[3, 4, 0]], [[3, 4, 12]], [[3, 5, 12]]]);
    expect(spans.map(({ id, kind }) => [id, kind])).toEqual([
      ["p1", "line"],
      ["p2", "line"],
      ["p3", "line"],
    ]);
    expect(lengthOf(spans)).toBeCloseTo(18, 12);
  });

  test("any points: it goes through every one in order; splines are one smooth part each; its length as short chords add up", () => {
    fc.assert(
      fc.property(
        places,
        fc.array(fc.boolean(), { minLength: 9, maxLength: 9 }),
        fc.boolean(),
        (all, kinds, closed) => {
          const points = all.map((at, i): Point => [at, kinds[i] ? "spline" : "line"]);
          const spans = made(points, { closed });
          const joints = closed ? all.length : all.length - 1;
          // Every point lies on it: a spline passes those between its ends at its knots.
          for (const at of all) {
            const away = spans.flatMap((span) =>
              (span.kind === "line" ? [0, 1] : [...new Set(span.knots)]).map((t) => distance(spanAt(span, t), at)),
            );
            expect(Math.min(...away)).toBeLessThan(1e-9);
          }
          // Each part begins where the one before ends.
          spans.slice(1).forEach((span, i) => {
            expect(distance(spanAt(spans[i]!, 1), spanAt(span, 0))).toBeLessThan(1e-9);
          });
          expect(distance(spanAt(spans[0]!, 0), spanAt(spans.at(-1)!, 1)) < 1e-9).toBe(closed);
          const straight = points.slice(0, joints).filter(([, by]) => by === "line").length;
          expect(spans.filter(({ kind }) => kind === "line")).toHaveLength(straight);
          const chords = chordLength(spans);
          expect(chords).toBeLessThan(lengthOf(spans) * (1 + 1e-9));
          expect(relative(lengthOf(spans), chords)).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 60 },
    );
  });

  test("splines leave straight parts in their direction, at both ends and round a closed curve; or not, where that is said", () => {
    const points: Point[] = [
      [[0, 0, 0]],
      [[50, 0, 0], "spline"],
      [[80, 30, 10], "spline"],
      [[80, 60, 40]],
      [[80, 90, 70]],
    ];
    const bend = (a: CurveSpan, b: CurveSpan) => length(cross(unit(spanSlope(a, 1)), unit(spanSlope(b, 0))));
    for (const closed of [false, true]) {
      const spans = made(points, { closed });
      const next = (i: number) => spans[i + 1] ?? (closed ? spans[0] : undefined);
      const joints = spans.flatMap((span, i) => (next(i) ? [[span, next(i)!] as const] : []));
      const smooth = joints.filter(([a, b]) => a.kind !== b.kind);
      expect(smooth.length).toBe(2);
      for (const [a, b] of smooth) expect(bend(a, b)).toBeLessThan(1e-12);
    }
    const bent = made(points, { smooth: false });
    expect(bend(bent[0]!, bent[1]!)).toBeGreaterThan(0.1);
  });

  test("a closed curve of splines only has no corner, and no beginning that shows", () => {
    const ring = Array.from({ length: 8 }, (_, i): Point => {
      const turn = (i * Math.PI) / 4;
      return [[30 * Math.cos(turn), 30 * Math.sin(turn), 5], "spline"];
    });
    const spans = made(ring, { closed: true });
    expect(spans).toHaveLength(1);
    expect(length(sub(spanSlope(spans[0]!, 0), spanSlope(spans[0]!, 1)))).toBeLessThan(1e-9);
    // Round eight points of a circle a cubic spline is a circle to within a thousandth.
    expect(relative(lengthOf(spans), 2 * Math.PI * 30)).toBeLessThan(2e-3);
    // Begun at another point it is the same.
    const turned = made([...ring.slice(3), ...ring.slice(0, 3)], { closed: true });
    expect(relative(lengthOf(turned), lengthOf(spans))).toBeLessThan(1e-12);
  });

  test("places are formulas with units", () => {
    const result = buildSteps(
      step(
        [[["=2", "1/2 in", "1 cm"]], [["10 mm * 2", 12.7, 10]]].map(
          ([at]) => [at!.map((v) => (v === "=2" ? "1 + 1" : v))] as Point,
        ),
      ),
    );
    expect(curveOf(result).spans[0]).toMatchObject({ from: [2, 12.7, 10], to: [20, 12.7, 10] });
  });

  test("what cannot be joined is told, with the points and the place", () => {
    const error = (points: readonly Point[], more = {}) => built(points, more).step("c").error;
    expect(error([[[0, 0, 0]]])?.message).toMatch(/2 points at least/);
    expect(error([[[0, 0, 0]], [[1, 0, 0]]], { closed: true })?.message).toMatch(/closed curve goes through 3 points/);
    expect(error([[[0, 0, 0]], [[5, 6, 7]], [[5, 6, 7]]])).toMatchObject({
      message: expect.stringMatching(/^Points 2 and 3 are one place/),
      at: [5, 6, 7],
    });
    expect(error([[[0, 0, 0]], [[5, 6, 7]], [[0, 0, 0]]], { closed: true })?.message).toMatch(
      /^Points 3 and 1 are one/,
    );
    const twice = buildSteps({ id: "c", type: "curve", points: ["p", "p"].map((id, i) => ({ id, at: [i, 0, 0] })) });
    expect(twice.step("c").error?.message).toMatch(/called “p”/);
  });
});

describe("what is done with a curve", () => {
  const path: Point[] = [[[0, 0, 0]], [[40, 0, 0]], [[40, 30, 0]], [[40, 30, 50]]];

  test("a pipe along it, with mitred corners out of one plane: the section times its length", () => {
    const result = built(path, {}, { id: "x", type: "pipe", path: ["c"], size: 6, wall: 0 });
    expect(result.step("x").error ?? null).toBeNull();
    expect(relative(volumeOfStep(result, "x"), Math.PI * 9 * 120)).toBeLessThan(1e-9);
    expect(result.bodies[0]!.faces).toEqual(expect.arrayContaining(["x:side:p1", "x:side:p2", "x:side:p3"]));
    expect(result.reports[0]).toMatchObject({ valid: true, closed: true });
  });

  test("its parts keep their names when a point comes in before them", () => {
    const later = { id: "x", type: "pipe", path: ["c"], size: 6 };
    const points = [...step(path).points];
    points.splice(1, 0, { id: "p9", at: [20, 0, 10], by: "line" });
    const result = buildSteps({ ...step(path), points }, later);
    expect(result.bodies[0]!.faces).toEqual(
      expect.arrayContaining(["x:side:p1", "x:side:p9", "x:side:p2", "x:side:p3"]),
    );
  });

  test("moved, turned and copied it is the same curve elsewhere", () => {
    const move = { id: "m", type: "move", bodies: ["c"], axis: "z", turn: 90, by: [1, 2, 3], copy: true };
    const result = built([[[10, 0, 0], "spline"], [[20, 5, 5], "spline"], [[30, 0, 0]]], {}, move);
    const [first, copy] = result.bench.map(({ item }) => item as CurveItem);
    expect(result.bench.map(({ name }) => name)).toEqual(["Curve", "Curve copy"]);
    expect(lengthOf(copy!.spans)).toBeCloseTo(lengthOf(first!.spans), 9);
    expect(distance(spanAt(copy!.spans[0]!, 0), [1, 12, 3])).toBeLessThan(1e-12);
    expect(distance(spanAt(copy!.spans[0]!, 1), [1, 32, 3])).toBeLessThan(1e-9);
  });

  test("it is no body and cuts nothing: who picks it for that is told", () => {
    const block = { id: "b", type: "box", size: [10, 10, 10] };
    const cut = { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["c"] };
    const result = built(path, {}, block, cut, { id: "f", type: "shell", body: ["c"], thickness: 1 });
    expect(result.step("s").error?.message).toBe("Curve is a curve, which cuts nothing. Pick another cutter.");
    expect(result.step("f").error?.message).toMatch(/Curve is a curve; pick a body/);
    const held = built(path, {}, block, { ...cut, stock: ["c"], cutters: ["b"] });
    expect(held.step("s").error?.message).toMatch(/Curve is a curve; pick a body/);
  });

  test("measured: its length, and how far it is from a body, by hand", () => {
    const result = built([[[0, 0, 30]], [[100, 0, 30]]], {}, { id: "b", type: "sphere", diameter: 20, at: [50, 0, 0] });
    const curve = { curve: curveOf(result) };
    expect(measureThing(curve)).toMatchObject({ kind: "curve", form: "line", length: 100, direction: [1, 0, 0] });
    const between = measureBetween(curve, { body: result.bodies[0]! });
    expect(between.nearest!.mm).toBeCloseTo(20, 6);
    const other = { ...curve.curve, spans: made([[[50, -20, 40]], [[50, 20, 40]]]) };
    const crossing = measureBetween(curve, { curve: other });
    expect(crossing.nearest!.mm).toBeCloseTo(10, 9);
    expect(crossing.angle).toBeCloseTo(90, 9);
  });

  test("stored and taken up again it is the same", () => {
    const result = built(path);
    const [made] = result.results.values();
    expect(fromStored(JSON.parse(JSON.stringify(toStored(made!)))).made).toEqual(made!.made);
  });
});

describe("released", () => {
  const result = () =>
    built(
      [[[0, 0, 0]], [[40, 0, 0], "spline"], [[60, 20, 10], "spline"], [[60, 60, 40]]],
      {},
      { id: "b", type: "box", size: [10, 10, 10] },
    );
  const written = (format: string) => {
    const { bench } = result();
    const bytes = writeItems(format, outItems({ looks: {} }, bench), { title: "Path", tolerance: 0.1 });
    return { text: new TextDecoder("latin1").decode(bytes), spans: (bench[0]!.item as CurveItem).spans };
  };

  test("as DXF: the line and the spline in space, pole by pole, by another reader", () => {
    const { text, spans } = written("dxf");
    const { entities, header } = new DxfParser().parseSync(text)! as unknown as {
      entities: Record<string, never>[];
      header: Record<string, unknown>;
    };
    expect(header.$INSUNITS).toBe(4);
    const [line, spline] = entities as unknown as [
      { type: string; layer: string; vertices: { x: number; y: number; z: number }[] },
      { type: string; controlPoints: { x: number; y: number; z: number }[]; knotValues: number[]; planar?: boolean },
    ];
    expect(line).toMatchObject({ type: "LINE", layer: "Curve" });
    expect(line.vertices.map(({ x, y, z }) => [x, y, z])).toEqual([
      [0, 0, 0],
      [40, 0, 0],
    ]);
    const drawn = spans[1] as Extract<CurveSpan, { kind: "spline" }>;
    expect(spline.type).toBe("SPLINE");
    spline.controlPoints.forEach(({ x, y, z }, i) => {
      expect(distance([x, y, z], drawn.poles[i]!)).toBeLessThan(1e-9);
    });
    expect(spline.controlPoints).toHaveLength(drawn.poles.length);
    expect(spline.knotValues).toEqual([...drawn.knots]);
  });

  test("as STEP, beside bodies: named, every pole as it is (ISO 10303-42, b_spline_curve_with_knots)", () => {
    const { text, spans } = written("step");
    const records = parseRecords(new TextEncoder().encode(text));
    const places = new Map(
      records
        .filter(({ types }) => types.includes("CARTESIAN_POINT"))
        .map(
          ({ id, body }) =>
            [
              id,
              body
                .match(/\(([^()]*)\)\s*$/)![1]!
                .split(",")
                .map(Number),
            ] as const,
        ),
    );
    const [only, ...more] = records.filter(({ types }) => types.some((type) => type.startsWith("B_SPLINE_CURVE")));
    expect(more).toEqual([]);
    const drawn = spans[1] as Extract<CurveSpan, { kind: "spline" }>;
    const poles = [...only!.body.match(/\(([^()]*)\)/)![1]!.matchAll(/#(\d+)/g)].map(
      ([, id]) => places.get(Number(id))!,
    );
    expect(poles).toHaveLength(drawn.poles.length);
    poles.forEach((pole, i) => {
      expect(distance(pole as unknown as Vec3, drawn.poles[i]!)).toBeLessThan(1e-9);
    });
    const products = records.filter(({ types }) => types.includes("PRODUCT")).map(({ body }) => body);
    expect(products.some((body) => body.startsWith("'Curve'"))).toBe(true);
    expect(products.some((body) => body.startsWith("'Block'"))).toBe(true);
  });

  test("formats of bodies leave it out; of curves alone they say so", () => {
    const { text } = written("stl");
    expect(text.slice(0, 6)).toBe("STL mm");
    const only = outItems({ looks: {} }, built([[[0, 0, 0]], [[1, 0, 0]]]).bench);
    const options = { title: "", tolerance: 0.1 };
    expect(() => writeItems("stl", only, options)).toThrow(/STL holds bodies, and curves have no faces/);
    const block = outItems({ looks: {} }, buildSteps({ id: "b", type: "box", size: [1, 1, 1] }).bench);
    expect(() => writeItems("dxf", block, options)).toThrow(/DXF holds curves, and none is picked/);
  });

  test("the unit vectors of its parts are its own: no part is turned round", () => {
    for (const span of written("step").spans) expect(dot(unit(spanSlope(span, 0.5)), [1, 1, 1])).toBeGreaterThan(0);
  });
});
