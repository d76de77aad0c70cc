import { beforeAll, describe, expect, test } from "vitest";
import { curvesOf, givenEntities, pointAt, type Vec2 } from "../../sketch";
import {
  allEdgeFacts,
  freeShape,
  inSpace,
  type PlaneFrame,
  type ProjectedEdge,
  projectEdges,
  type Shape,
  sectionCurves,
} from "..";
import { loadNodeKernel } from "../library/node";
import { dot, sub } from "../space/vectors";
import { drawOutSolid } from "./outline";
import { makeBox, makeCylinder, makeSphere } from "./primitives";

beforeAll(loadNodeKernel);

const level: PlaneFrame = { origin: [0, 0, 5], normal: [0, 0, 1], x: [1, 0, 0] };
const aslant: PlaneFrame = { origin: [2, 1, 0], normal: [0, -0.6, 0.8], x: [1, 0, 0] };

const all = (shape: Shape): number[] => allEdgeFacts(shape).flatMap((facts, i) => (facts ? [i] : []));
/** Points along what a projection came to, as the sketch draws it. */
function drawn(curve: ProjectedEdge): Vec2[] {
  const [one] = curvesOf(givenEntities("g", curve, false));
  return Array.from({ length: 33 }, (_, i) => pointAt(one!, i / 32));
}

describe("edges seen square to a plane", () => {
  test("a box from above: four sides, what stands up is a point", () => {
    const box = makeBox([0, 0, 0], [40, 30, 20]);
    const seen = projectEdges(box, all(box), level);
    expect(seen.filter((one) => one === null)).toHaveLength(4);
    expect(seen.filter((one) => one?.exact && one.curve.kind === "line")).toHaveLength(8);
    freeShape(box);
  });

  test.each([
    ["level", level, "arc"],
    ["aslant", aslant, "ellipse"],
    ["edge-on", { origin: [0, 0, 0], normal: [0, 1, 0], x: [1, 0, 0] } as PlaneFrame, "line"],
  ] as const)("a circle seen %s", (_name, frame, kind) => {
    const cylinder = makeCylinder([3, 4, 0], [0, 0, 1], 10, 25);
    const facts = allEdgeFacts(cylinder);
    const rims = all(cylinder).filter((i) => facts[i]!.kind === "circle");
    for (const seen of projectEdges(cylinder, rims, frame)) {
      expect(seen).toMatchObject({ exact: true, curve: { kind } });
      if (kind === "arc") expect(seen).toMatchObject({ curve: { radius: 10, centre: [3, 4] } });
      // Foreshortened by the cosine of the angle between the planes: 0.8.
      if (kind === "ellipse") {
        const { major, minor } = (seen as { curve: { major: number; minor: number } }).curve;
        expect([major, minor].sort((a, b) => a - b).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([8, 10]);
      }
      if (kind === "line") {
        const [from, to] = [drawn(seen!)[0]!, drawn(seen!).at(-1)!];
        expect(Math.hypot(to[0] - from[0], to[1] - from[1])).toBeCloseTo(20, 9);
      }
    }
    freeShape(cylinder);
  });

  test("part of a circle keeps its ends and the side on which it bulges", () => {
    const solid = drawOutSolid(
      level,
      [
        [10, 0],
        [0, 10],
      ],
      [
        {
          shape: { kind: "arc", centre: [0, 0], radius: 10, start: 0, sweep: Math.PI / 2 },
          from: 0,
          to: 1,
          start: 0,
          end: 1,
        },
        { shape: { kind: "line", from: [0, 10], to: [10, 0] }, from: 0, to: 1, start: 1, end: 0 },
      ],
      [
        { stretch: 0, forwards: true },
        { stretch: 1, forwards: true },
      ],
      [],
      0,
      8,
    ).shape;
    const facts = allEdgeFacts(solid);
    for (const frame of [level, aslant, { ...aslant, normal: [0, 0.6, -0.8], x: [1, 0, 0] } as PlaneFrame])
      for (const place of all(solid).filter((i) => facts[i]!.kind === "circle")) {
        const [seen] = projectEdges(solid, [place], frame);
        const { at, ends } = facts[place]!;
        const points = drawn(seen!);
        const image = (p: readonly [number, number, number]): Vec2 => {
          const out = sub(p, frame.origin);
          const y = inSpace({ ...frame, origin: [0, 0, 0] }, [0, 1]);
          return [dot(out, frame.x), dot(out, y)];
        };
        const near = (p: Vec2) => Math.min(...points.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1])));
        expect(near(image(at))).toBeLessThan(0.3);
        for (const end of ends)
          expect(
            Math.min(
              ...[points[0]!, points.at(-1)!].map((q) => Math.hypot(image(end)[0] - q[0], image(end)[1] - q[1])),
            ),
          ).toBeLessThan(1e-9);
      }
    freeShape(solid);
  });

  test("a polynomial spline by the images of its poles", () => {
    const poles = {
      points: [
        [0, 0],
        [10, 12],
        [20, -5],
        [30, 4],
      ] as Vec2[],
      knots: [0, 0, 0, 0, 1, 1, 1, 1],
      degree: 3,
    };
    const solid = drawOutSolid(
      level,
      [
        [0, 0],
        [30, 4],
        [30, -20],
      ],
      [
        { shape: { kind: "spline", poles }, from: 0, to: 1, start: 0, end: 1 },
        { shape: { kind: "line", from: [30, 4], to: [30, -20] }, from: 0, to: 1, start: 1, end: 2 },
        { shape: { kind: "line", from: [30, -20], to: [0, 0] }, from: 0, to: 1, start: 2, end: 0 },
      ],
      [0, 1, 2].map((stretch) => ({ stretch, forwards: true })),
      [],
      0,
      8,
    ).shape;
    const facts = allEdgeFacts(solid);
    const splines = projectEdges(
      solid,
      all(solid).filter((i) => facts[i]!.kind === "spline"),
      level,
    );
    expect(splines).toHaveLength(2);
    for (const seen of splines)
      expect(seen).toMatchObject({ exact: true, curve: { kind: "spline", poles: { degree: 3, knots: poles.knots } } });
    freeShape(solid);
  });
});

describe("a body cut by a plane", () => {
  test("a ball: a circle of √(r² − h²)", () => {
    const ball = makeSphere([0, 0, 0], 10);
    const curves = sectionCurves(ball, { ...level, origin: [0, 0, 6] });
    expect(curves).toHaveLength(1);
    const points = drawn(curves[0]!.curve);
    for (const [x, y] of points) expect(Math.hypot(x, y)).toBeCloseTo(8, 9);
    freeShape(ball);
  });

  test("a cylinder aslant: an ellipse of r and r / cos; a box: four lines on four of its faces", () => {
    const cylinder = makeCylinder([0, 0, -40], [0, 0, 1], 10, 80);
    const [cut] = sectionCurves(cylinder, { origin: [0, 0, 0], normal: [0, -0.6, 0.8], x: [1, 0, 0] });
    const { major, minor } = (cut!.curve as { curve: { major: number; minor: number } }).curve;
    expect(Math.max(major, minor)).toBeCloseTo(12.5, 9);
    expect(Math.min(major, minor)).toBeCloseTo(10, 9);
    const box = makeBox([0, 0, 0], [40, 30, 20]);
    const lines = sectionCurves(box, level);
    expect(lines.map(({ curve }) => curve.exact && curve.curve.kind)).toEqual(["line", "line", "line", "line"]);
    expect(new Set(lines.map(({ face }) => face)).size).toBe(4);
    freeShape(cylinder);
    freeShape(box);
  });

  test("a plane that misses cuts nothing", () => {
    const box = makeBox([0, 0, 0], [40, 30, 20]);
    expect(sectionCurves(box, { ...level, origin: [0, 0, 100] })).toEqual([]);
    freeShape(box);
  });
});
