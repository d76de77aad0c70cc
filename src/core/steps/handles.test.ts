import { beforeAll, describe, expect, test } from "vitest";
import { isBody, type Workplane } from "../items";
import { allEdgeFacts, allFaceFacts, boxOf, distanceToPoint, type Vec3 } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { distance, dot, scale, sub } from "../kernel/space/vectors";
import { edgeRefOf } from "../naming";
import { ParameterScope } from "../params";
import { build, buildSteps, jobOf } from "../testing/harness";
import { HANDLED_TYPES, handlePlaces } from "./handles";
import { resolveStep } from "./values";

beforeAll(loadNodeKernel);

type Step = { id: string; type: string } & Record<string, unknown>;

const block: Step = { id: "b", type: "box", size: [40, 30, 20] };
const outline = (more: object = {}): Step => ({
  id: "k",
  type: "sketch",
  on: "xy",
  entities: [
    ...[
      [10, 5],
      [30, 5],
      [30, 25],
      [10, 25],
    ].map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
    ...[0, 1, 2, 3].map((i) => ({ id: `l${i}`, type: "line", from: `p${i}`, to: `p${(i + 1) % 4}` })),
  ],
  ...more,
});
/** A reference to the edge of the first body whose middle is at a place. */
function edgeAt(steps: Step[], near: Vec3) {
  const body = buildSteps(...steps).bodies[0]!;
  const place = allEdgeFacts(body.shape).findIndex((facts) => facts && distance(facts.at, near) < 1e-6);
  return edgeRefOf(body, place);
}

/** Steps before, the step that has the numbers, and which numbers stand on what it makes. */
const CASES: [what: string, before: Step[], step: Step][] = [
  ["a block by its base", [], { id: "s", type: "box", size: [40, 30, 20], at: [3, 4, 5] }],
  ["a block by its corner", [], { id: "s", type: "box", size: [40, 30, 20], at: [3, 4, 5], anchor: "corner" }],
  ["a block by its centre", [], { id: "s", type: "box", size: [40, 30, 20], at: [3, 4, 5], anchor: "centre" }],
  ["a block round another", [block], { id: "s", type: "box", place: "around", around: ["b"], margin: [1, 2, 3] }],
  ["a bar along X", [], { id: "s", type: "cylinder", diameter: 12, height: 40, at: [1, 2, 3], axis: "x" }],
  ["a ball", [], { id: "s", type: "sphere", diameter: 30, at: [1, 2, 3] }],
  ["a cone", [], { id: "s", type: "cone", diameter: 30, top: 12, height: 25, at: [1, 2, 3], axis: "y" }],
  ["a ring", [], { id: "s", type: "torus", diameter: 60, section: 12, at: [1, 2, 3], axis: "y" }],
  [
    "a wedge",
    [],
    { id: "s", type: "wedge", length: 40, width: 20, height: 15, top: 10, ridge: "middle", at: [1, 2, 3] },
  ],
  ["a level plane, turned round", [], { id: "s", type: "workplane", base: "xy", offset: 7, flip: true }],
  [
    "a plane turned about Y",
    [],
    { id: "s", type: "workplane", base: "turned", axis: "y", angle: 25, offset: 4, through: [1, 2, 3] },
  ],
  ["an extrusion", [outline()], { id: "s", type: "extrude", sketch: ["k"], distance: 12, from: 3 }],
  ["an extrusion turned round", [outline()], { id: "s", type: "extrude", sketch: ["k"], distance: 12, flip: true }],
  [
    "an extrusion both ways",
    [outline()],
    { id: "s", type: "extrude", sketch: ["k"], extent: "symmetric", distance: 12 },
  ],
  [
    "an extrusion of two distances",
    [outline()],
    { id: "s", type: "extrude", sketch: ["k"], extent: "two", distance: 12, second: 5 },
  ],
  [
    "an extrusion of two distances, turned round",
    [outline()],
    { id: "s", type: "extrude", sketch: ["k"], extent: "two", distance: 12, second: 5, flip: true },
  ],
  [
    "a pocket cut",
    [{ ...block, size: [90, 90, 20], at: [0, 0, -14] }, outline()],
    { id: "s", type: "extrude", sketch: ["k"], distance: 8, flip: true, from: -6, into: "cut", targets: ["b"] },
  ],
  ["a part turned", [outline()], { id: "s", type: "revolve", sketch: ["k"], extent: "angle", angle: 70 }],
  [
    "a part turned the other way",
    [outline()],
    { id: "s", type: "revolve", sketch: ["k"], extent: "angle", angle: -110 },
  ],
  ["a part turned both ways", [outline()], { id: "s", type: "revolve", sketch: ["k"], extent: "symmetric", angle: 80 }],
  [
    "an offset sheet",
    [block],
    { id: "s", type: "offset-sheet", faces: [{ body: "b:block", face: "b:side:z+" }], distance: 4 },
  ],
  [
    "faces moved out",
    [block],
    { id: "s", type: "offset-faces", faces: [{ body: "b:block", face: "b:side:z+" }], distance: 4 },
  ],
  [
    "faces moved out and in, by two distances",
    [block],
    {
      id: "s",
      type: "offset-faces",
      faces: [{ body: "b:block", face: "b:side:x-" }],
      distance: 3,
      sets: "two",
      faces2: [{ body: "b:block", face: "b:side:y+" }],
      distance2: -2,
    },
  ],
  ["walls", [block], { id: "s", type: "shell", body: ["b"], thickness: 3 }],
  [
    "walls open above",
    [block],
    { id: "s", type: "shell", body: ["b"], thickness: 3, open: [{ body: "b:block", face: "b:side:z+" }] },
  ],
  ["walls outside", [block], { id: "s", type: "shell", body: ["b"], thickness: 3, outward: true }],
  ["rows", [block], { id: "s", type: "pattern", bodies: ["b"], count: 3, spacing: 50, rows: 2, rowSpacing: -45 }],
  ["a joined row", [block], { id: "s", type: "pattern", bodies: ["b"], count: 3, spacing: 30, join: true }],
  [
    "a body moved and turned",
    [block],
    { id: "s", type: "move", bodies: ["b"], by: [5, 6, 7], turn: 30, axis: "z", about: [50, 0, 0] },
  ],
];

function placesOf(before: Step[], step: Step) {
  const job = jobOf([...before, step]);
  const built = build(job);
  const full = job.parts[0]!.steps.at(-1)!;
  expect(built.step(step.id).error).toBeUndefined();
  const made = new Set(built.step(step.id).made);
  const items = built.bench.map(({ item }) => item).filter(({ id }) => made.has(id));
  const bodies = items.filter(isBody);
  const places = handlePlaces(full, resolveStep(full, new ParameterScope()).step, {
    step: step.id,
    bodies: bodies.map(({ shape, faces }) => ({
      faces: allFaceFacts(shape).map((facts, f) => ({ ...facts, name: faces[f]! })),
      box: boxOf(shape),
    })),
    planes: items.filter((item): item is Workplane => item.kind === "workplane"),
    size: 100,
  });
  return { places, bodies };
}

/** A step with one of its numbers more. */
function more(step: Step, { field, index }: { field: string; index?: number }, by: number): Step {
  const values = resolveStep(jobOf([block, outline(), step]).parts[0]!.steps[2]!, new ParameterScope()).step as Step;
  const value = values[field] as number | number[];
  if (typeof value === "number") return { ...step, [field]: value + by };
  return { ...step, [field]: value.map((one, i) => (i === index ? one + by : one)) };
}

const near = (a: Vec3, b: Vec3, by: number) => expect(distance(a, b)).toBeLessThan(by);

describe("numbers in the view", () => {
  test.each(CASES)("go where they say: %s", (_, before, step) => {
    const { places } = placesOf(before, step);
    expect(places.length).toBeGreaterThan(0);
    for (const place of places) {
      const by = 0.01;
      const after = placesOf(before, more(step, place, by)).places.find(
        ({ field, index }) => field === place.field && index === place.index,
      )!;
      // A circle is left by the square of what it is followed by.
      const gone = scale(sub(after.at, place.at), 1 / by);
      // An open wall is cut shorter by the next one: its middle goes along it, too.
      if (step.open) expect(dot(gone, place.way)).toBeCloseTo(place.rate, 3);
      else near(gone, scale(place.way, place.rate), 1e-3);
      expect(Math.hypot(...place.way)).toBeCloseTo(1, 9);
    }
  });

  test("stand on what they make: sizes, distances and radii", () => {
    for (const [what, before, step] of CASES) {
      const { places, bodies } = placesOf(before, step);
      if (bodies.length === 0) continue;
      for (const { field, at, moves } of places) {
        if (
          (moves && field !== "distance") ||
          field === "turn" ||
          step.type === "pattern" ||
          (step.type === "torus" && field === "diameter")
        )
          continue;
        const off = Math.min(...bodies.map(({ shape }) => distanceToPoint(shape, at)!.gap));
        expect(off, `${what}: ${field}`).toBeLessThan(1e-6);
      }
    }
  });

  test("radii and chamfers draw back from their edge, by what the angle there makes of them", () => {
    const wedge: Step = { id: "b", type: "wedge", length: 40, width: 30, height: 40, top: 0, ridge: "start" };
    const along = (type: string, value: object): Step => ({ id: "s", type, ...value });
    for (const [before, near] of [
      [block, [20, 0, 20]],
      [wedge, [40, 15, 0]],
    ] as const)
      for (const kind of ["fillet", "chamfer"] as const) {
        if (kind === "chamfer" && before === wedge) continue;
        const edges = edgeAt([before], [...near]);
        const field = kind === "fillet" ? "radius" : "distance";
        const step = along(kind, { edges: [edges], [field]: 3 });
        const { places, bodies } = placesOf([before], step);
        expect(places.map((place) => place.field)).toEqual([field]);
        const after = placesOf([before], { ...step, [field]: 3.01 }).places[0]!;
        expect(distance(scale(sub(after.at, places[0]!.at), 100), scale(places[0]!.way, places[0]!.rate))).toBeLessThan(
          1e-3,
        );
        expect(distanceToPoint(bodies[0]!.shape, places[0]!.at)!.gap).toBeLessThan(1e-6);
      }
  });

  test("are tried for every kind of step that has some", () => {
    const tried = new Set([...CASES.map(([, , { type }]) => type), "fillet", "chamfer"]);
    expect([...tried].sort()).toEqual([...HANDLED_TYPES].sort());
  });
});
