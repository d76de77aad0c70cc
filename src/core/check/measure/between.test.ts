import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../../items";
import { allEdgeFacts, allFaceFacts, verticesOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { measureBetween, measureThing, type Thing } from "..";

beforeAll(loadNodeKernel);

const face = (body: Body, name: string): Thing => ({ body, part: { kind: "face", place: body.faces.indexOf(name) } });
const edgeAt = (body: Body, test: (facts: NonNullable<ReturnType<typeof allEdgeFacts>[number]>) => boolean): Thing => ({
  body,
  part: { kind: "edge", place: allEdgeFacts(body.shape).findIndex((facts) => facts !== null && test(facts)) },
});
const corner = (body: Body, at: number[]): Thing => ({
  body,
  part: {
    kind: "corner",
    place: verticesOf(body.shape).findIndex((place) => place.every((v, i) => Math.abs(v - at[i]!) < 1e-6)),
  },
});

/** Two blocks, a tilted one, a ball and two bars. */
const bench = () =>
  buildSteps(
    { id: "a", type: "box", size: [20, 20, 20], at: [0, 0, 0] },
    { id: "b", type: "box", size: [10, 10, 10], at: [40, 0, 0] },
    { id: "t", type: "box", size: [10, 10, 10], at: [0, 60, 0] },
    { id: "turned", type: "move", bodies: ["t"], turn: 30, axis: "x", about: [0, 60, 0] },
    { id: "s", type: "sphere", diameter: 8, at: [0, 0, 60] },
    { id: "p", type: "cylinder", diameter: 6, height: 30, at: [-50, 0, 0] },
    { id: "q", type: "cylinder", diameter: 4, height: 30, at: [-50, 25, 0] },
  );

describe("one thing", () => {
  test("a face, an edge, a corner, a whole body", () => {
    const built = bench();
    const [a, p, s] = ["a:block", "p:cylinder", "s:sphere"].map(
      (id) =>
        built.bodies.find((body) => body.id === id) ?? built.bodies.find((body) => body.id.startsWith(id.slice(0, 2)))!,
    );
    expect(measureThing({ body: a! })).toMatchObject({
      kind: "solid",
      volume: expect.closeTo(8000, 6),
      area: expect.closeTo(2400, 6),
    });
    expect(measureThing(face(a!, "a:side:z+"))).toMatchObject({
      form: "plane",
      area: expect.closeTo(400, 9),
      direction: [0, 0, 1],
    });
    const side = measureThing(face(p!, "p:side"));
    expect(side).toMatchObject({ form: "cylinder", radius: 3 });
    expect(side.area).toBeCloseTo(Math.PI * 6 * 30, 6);
    const rim = measureThing(edgeAt(p!, ({ kind }) => kind === "circle"));
    expect(rim).toMatchObject({ form: "circle", radius: 3 });
    expect(rim.length).toBeCloseTo(6 * Math.PI, 9);
    expect(measureThing(corner(a!, [10, 10, 20])).at).toEqual([10, 10, 20]);
    expect(measureThing({ body: s! }).volume).toBeCloseTo((4 / 3) * Math.PI * 64, 6);
  });
});

describe("two things", () => {
  const of = (built: ReturnType<typeof bench>, step: string) =>
    built.bodies.find((body) => body.id.startsWith(`${step}:`))!;

  test("parallel faces: the distance of their planes, and the nearest points", () => {
    const built = bench();
    const [a, b] = [of(built, "a"), of(built, "b")];
    const found = measureBetween(face(a, "a:side:x+"), face(b, "b:side:x+"));
    expect(found.apart).toMatchObject({ what: "planes", mm: 35 });
    expect(found.nearest!.mm).toBeCloseTo(35, 9);
    expect(found.angle).toBe(0);
    expect(measureBetween({ body: a }, { body: b }).nearest!.mm).toBeCloseTo(25, 9);
  });

  test.each([
    ["a face that was turned", "t:side:z+", "a:side:z+", 30],
    ["and one square to the axis of the turn", "t:side:x+", "a:side:z+", 90],
  ])("the angle of %s", (_name, one, two, angle) => {
    const built = bench();
    expect(measureBetween(face(of(built, "t"), one), face(of(built, "a"), two)).angle).toBeCloseTo(angle, 9);
  });

  test("axes: their distance; the skins: less by both radii", () => {
    const built = bench();
    const found = measureBetween(face(of(built, "p"), "p:side"), face(of(built, "q"), "q:side"));
    expect(found.apart).toMatchObject({ what: "axes", mm: expect.closeTo(25, 9) });
    expect(found.nearest!.mm).toBeCloseTo(20, 6);
    expect(found.angle).toBe(0);
  });

  test("an axis and a plane; a centre and a corner; an edge and a face at an angle", () => {
    const built = bench();
    const [a, p, s, t] = ["a", "p", "s", "t"].map((step) => of(built, step));
    expect(measureBetween(face(p!, "p:side"), face(a!, "a:side:x-")).apart).toMatchObject({
      what: "axis and plane",
      mm: expect.closeTo(40, 9),
    });
    const ball: Thing = {
      body: s!,
      part: { kind: "face", place: allFaceFacts(s!.shape).findIndex(({ kind }) => kind === "sphere") },
    };
    expect(measureBetween(ball, corner(a!, [10, 10, 20])).apart).toMatchObject({ what: "corner and centre" });
    expect(measureBetween(corner(a!, [10, 10, 20]), corner(a!, [-10, -10, 0])).apart!.mm).toBeCloseTo(
      20 * Math.sqrt(3),
      9,
    );
    const upright = edgeAt(a!, ({ direction }) => Math.abs(direction?.[2] ?? 0) > 0.99);
    expect(measureBetween(upright, face(t!, "t:side:z+")).angle).toBeCloseTo(60, 9);
  });

  test("a corner and a plane, an axis, an edge, a centre: endless, however far they reach", () => {
    const built = bench();
    const [a, b, p] = ["a", "b", "p"].map((step) => of(built, step));
    const far = corner(b!, [45, 5, 10]);
    expect(measureBetween(far, face(a!, "a:side:x+")).apart).toMatchObject({
      what: "corner and plane",
      mm: expect.closeTo(35, 9),
    });
    expect(measureBetween(far, face(p!, "p:side")).apart).toMatchObject({
      what: "corner and axis",
      mm: expect.closeTo(Math.hypot(95, 5), 9),
    });
    const upright = edgeAt(a!, ({ direction, at }) => Math.abs(direction?.[2] ?? 0) > 0.99 && at[0] > 0 && at[1] > 0);
    expect(measureBetween(far, upright).apart).toMatchObject({
      what: "corner and edge",
      mm: expect.closeTo(Math.hypot(35, 5), 9),
    });
    const rim = edgeAt(p!, ({ kind, centre }) => kind === "circle" && centre![2] > 1);
    expect(measureBetween(rim, face(a!, "a:side:z+")).apart).toMatchObject({
      what: "centre and plane",
      mm: expect.closeTo(10, 9),
    });
    expect(measureBetween(rim, far).apart).toMatchObject({ what: "corner and centre" });
  });

  test("what touches is 0 apart; along the axes it says how the two lie", () => {
    const built = bench();
    const a = of(built, "a");
    expect(measureBetween(face(a, "a:side:x+"), face(a, "a:side:y+")).nearest!.mm).toBeCloseTo(0, 9);
    const found = measureBetween(corner(a, [10, 10, 20]), corner(of(built, "b"), [35, -5, 0]));
    expect(found.along).toEqual([25, -15, -20]);
  });
});
