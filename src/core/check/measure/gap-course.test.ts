import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../../items";
import { allEdgeFacts, allFaceFacts } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { gapCourse } from "./gap-course";

beforeAll(loadNodeKernel);

const bodiesOf = (...steps: Record<string, unknown>[]) => buildSteps(...steps).bodies as Body[];
const edge = (body: Body, fits: (at: readonly number[]) => boolean) => ({
  body,
  part: { kind: "edge" as const, place: allEdgeFacts(body.shape).findIndex((facts) => facts && fits(facts.at)) },
});
const face = (body: Body, kind: string) => ({
  body,
  part: { kind: "face" as const, place: allFaceFacts(body.shape).findIndex((facts) => facts.kind === kind) },
});

describe("the gap along an edge", () => {
  test("over a plate, aslant: by the angle; the least and the most at its ends", () => {
    const [plate, bar] = bodiesOf(
      { id: "a", type: "box", size: [100, 40, 10], at: [0, 0, -5] },
      { id: "b", type: "box", size: [60, 4, 4], at: [0, 0, 20] },
      { id: "m", type: "move", bodies: ["b:block"], axis: "y", turn: 10, about: [0, 0, 20] },
    );
    // The lower one of the two long edges on that side.
    const LOW =
      Math.min(
        ...allEdgeFacts(bar!.shape).flatMap((facts) => (facts && Math.abs(facts.at[0]) < 5 ? [facts.at[2]] : [])),
      ) + 0.1;
    const course = gapCourse(
      edge(bar!, ([x, y, z]) => Math.abs(x!) < 5 && y! < 0 && z! < LOW),
      { body: plate! },
    )!;
    expect(course).toMatchObject({ by: "length", of: "first" });
    const slope = Math.sin((10 * Math.PI) / 180);
    for (const { gap, along } of course.places) {
      const up = course.places[0]!.gap < course.places.at(-1)!.gap ? along : 60 - along;
      expect(Math.abs(gap - (course.least.gap + up * slope))).toBeLessThan(1e-9);
    }
    expect(course.most.gap - course.least.gap).toBeCloseTo(60 * slope, 9);
    expect(course.places.map(({ along }) => along)).toEqual(
      [...course.places.map(({ along }) => along)].sort((a, b) => a - b),
    );
  });

  test("of a circle that is off the middle of a bore: R − r less and more by as much; where it lies within, below 0", () => {
    const steps = (off: number) => [
      { id: "a", type: "box", size: [40, 40, 10], at: [0, 0, 0] },
      { id: "h", type: "cylinder", diameter: 20, height: 40, at: [0, 0, -20] },
      { id: "s", type: "seam", preset: "subtract", stock: ["a:block"], cutters: ["h:cylinder"], keepCutters: false },
      { id: "p", type: "cylinder", diameter: 18, height: 30, at: [off, 0, -15] },
    ];
    const [plate, pin] = bodiesOf(...steps(0.4));
    const round = gapCourse(face(pin!, "cylinder"), { body: plate! })!;
    expect(round).toMatchObject({ by: "turn", of: "first" });
    // Of a pin's line at an angle the nearest place of the bore: along the way out from the bore's middle.
    for (const { gap, along } of round.places) {
      const turn = (along * Math.PI) / 180;
      const out = Math.hypot(0.4 + 9 * Math.cos(turn), 9 * Math.sin(turn));
      expect(Math.abs(gap - (10 - out))).toBeLessThan(1e-7);
    }
    expect(round.least.gap).toBeCloseTo(0.6, 7);
    expect(round.most.gap).toBeCloseTo(1.4, 7);
    const [tight, pressed] = bodiesOf(...steps(1.5));
    const within = gapCourse(face(pressed!, "cylinder"), { body: tight! })!;
    expect(within.least.gap).toBeCloseTo(-0.5, 7);
    expect(within.least.along % 360).toBeCloseTo(0, 1);
  });

  test("the second thing is run along where the first is a body; two bodies have nothing to run along", () => {
    const [a, b] = bodiesOf(
      { id: "a", type: "box", size: [20, 20, 20] },
      { id: "b", type: "cylinder", diameter: 10, height: 20, at: [30, 0, 0] },
    );
    expect(gapCourse({ body: a! }, face(b!, "cylinder"))).toMatchObject({ by: "turn", of: "second" });
    expect(gapCourse({ body: a! }, { body: b! })).toBeNull();
    expect(gapCourse(face(a!, "plane"), { body: b! })).toBeNull();
  });

  test("where a round face is not all round, only there", () => {
    const [half, wall] = bodiesOf(
      { id: "c", type: "cylinder", diameter: 20, height: 20 },
      { id: "w", type: "workplane", base: "yz", offset: 0 },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["c:cylinder"],
        cutters: ["w:plane"],
        keepSide: { "w:plane": "front" },
      },
      { id: "b", type: "box", size: [4, 60, 60], at: [22, 0, 0] },
    );
    const course = gapCourse(face(half!, "cylinder"), { body: wall! })!;
    expect(course.places.length).toBeLessThan(45);
    expect(course.least.gap).toBeCloseTo(10, 7);
    expect(course.most.gap).toBeCloseTo(20, 5);
  });

  test("half a cone: its least at the very end of a line", () => {
    const [half, floor] = bodiesOf(
      { id: "c", type: "cone", diameter: 20, top: 40, height: 20 },
      { id: "w", type: "workplane", base: "yz", offset: 0 },
      {
        id: "s",
        type: "seam",
        preset: "trim",
        stock: ["c:cone"],
        cutters: ["w:plane"],
        keepSide: { "w:plane": "front" },
      },
      { id: "b", type: "box", size: [200, 200, 4], at: [0, 0, -14] },
    );
    const course = gapCourse(face(half!, "cone"), { body: floor! })!;
    // From its lower rim straight down, at each angle.
    for (const { gap } of course.places) expect(gap).toBeCloseTo(10, 5);
  });

  test("along a curve by its length, whatever its spans run along by: over a plate as far as it rises", () => {
    const built = buildSteps(
      { id: "a", type: "box", size: [200, 200, 10], at: [0, 0, -10] },
      {
        id: "k",
        type: "curve",
        points: [
          [0, 0, 5],
          [1, 0, 6],
          [30, 0, 35],
        ].map((at, i) => ({ id: `p${i}`, at, by: "spline" })),
        smooth: true,
      },
    );
    const curve = built.bench.map(({ item }) => item).find(({ kind }) => kind === "curve")!;
    const plate = built.bodies[0] as Body;
    const course = gapCourse({ curve } as never, { body: plate })!;
    expect(course).toMatchObject({ by: "length", of: "first" });
    // Points in one line: the length along it rises as the way from its beginning.
    for (const { along, from, gap } of course.places) {
      expect(Math.hypot(from[0], from[1], from[2] - 5)).toBeCloseTo(along, 5);
      expect(gap).toBeCloseTo(from[2], 6);
    }
  });
});
