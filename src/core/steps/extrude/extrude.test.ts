import { beforeAll, describe, expect, test } from "vitest";
import type { SketchItem, Workplane } from "../../items";
import { loadNodeKernel } from "../../kernel/library/node";
import { profileOf } from "../../sketch";
import { type Built, build, buildSteps, jobOf, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A sketch step from a drawing. */
const drawn = (draft: SketchMaker, more: Step = {}): Step => ({
  id: "k",
  type: "sketch",
  entities: draft.entities,
  constraints: draft.constraints,
  dimensions: draft.dimensions,
  ...more,
});

/** A plate w × h about the origin by constraints and sizes, with a slot of its own; sizes may be formulas. */
function plate(width: number | string, height: number | string): SketchMaker {
  const d = new SketchMaker();
  const corners = [
    [-50, -30],
    [48, -31],
    [52, 29],
    [-51, 33],
  ] as const;
  for (const [i, [x, y]] of corners.entries()) d.point(`q${i}`, x, y);
  for (let i = 0; i < 4; i++) d.line(`s${i}`, `q${i}`, `q${(i + 1) % 4}`);
  d.holds("horizontal", "s2");
  d.holds("vertical", "s1");
  d.holds("symmetric", "q0", "q1", "axis-y");
  d.holds("symmetric", "q0", "q3", "axis-x");
  d.size("distance", 1, "s0");
  d.size("distance", 1, "s1");
  Object.assign(d.dimensions[0]!, { value: width });
  Object.assign(d.dimensions[1]!, { value: height });
  return d;
}

function withHole(d: SketchMaker, x: number, y: number, diameter: number): SketchMaker {
  d.circle("hole", [x, y], diameter / 2);
  d.size("diameter", diameter, "hole");
  d.size("across", x, "origin", "hole_c");
  d.size("upright", Math.abs(y), "origin", "hole_c");
  return d;
}

const volume = (built: Built, step = "e") => volumeOfStep(built, step);

describe("drawn out", () => {
  test.each([
    ["one way", { distance: 12 }, 12, [0, 12]],
    ["the other way round", { distance: 12, flip: true }, 12, [-12, 0]],
    ["both ways alike", { extent: "symmetric", distance: 12 }, 12, [-6, 6]],
    ["two distances", { extent: "two", distance: 12, second: "1/4 in" }, 18.35, [-6.35, 12]],
  ] as [string, Step, number, [number, number]][])("%s", (_name, values, height, [low, high]) => {
    const built = buildSteps(drawn(withHole(plate(100, 60), 20, 5, 16)), {
      id: "e",
      type: "extrude",
      sketch: ["k"],
      ...values,
    });
    expect(built.step("e").error).toBeUndefined();
    expect(volume(built)).toBeCloseTo((6000 - Math.PI * 64) * height, 5);
    const [report] = built.reports;
    expect(report).toMatchObject({ kind: "solid", closed: true, valid: true, genus: 1 });
    expect(report!.box!.min[2]).toBeCloseTo(low, 6);
    expect(report!.box!.max[2]).toBeCloseTo(high, 6);
  });

  test("faces are named by what they were drawn from", () => {
    const built = buildSteps(drawn(withHole(plate(100, 60), 20, 5, 16)), { id: "e", type: "extrude", sketch: ["k"] });
    expect([...built.bodies[0]!.faces].sort()).toEqual([
      "e:cap:base",
      "e:cap:end",
      "e:side:hole",
      "e:side:s0",
      "e:side:s1",
      "e:side:s2",
      "e:side:s3",
    ]);
  });

  test("chosen regions, joined where they meet; all by default but the holes", () => {
    const d = withHole(plate(100, 60), 20, 5, 16);
    d.line("mid", [0, -40], [0, 40]);
    d.holds("vertical", "mid");
    d.holds("on", "mid_a", "axis-y");
    const only = (...regions: { key: string }[]) =>
      buildSteps(drawn(d), { id: "e", type: "extrude", sketch: ["k"], regions });
    const built = buildSteps(drawn(d));
    const keys = profileOf(
      (built.bench.find(({ item }) => item.kind === "sketch")!.item as SketchItem).entities,
    ).regions.map(({ key }) => key);
    const half = keys.find((key) => key.includes("s3+"))!;
    const other = keys.find((key) => key.includes("s1+"))!;
    expect(volume(only({ key: half }))).toBeCloseTo(30_000, 5);
    expect(volume(only({ key: half }, { key: other }))).toBeCloseTo((6000 - Math.PI * 64) * 10, 5);
    expect(only({ key: half }, { key: other }).bodies).toHaveLength(1);
    expect(volume(only({ key: half }, { key: other }, { key: "hole+" }))).toBeCloseTo(60_000, 5);
    expect(volume(only())).toBeCloseTo((6000 - Math.PI * 64) * 10, 5);
  });

  test("on a face, on a workplane and on the other principal planes", () => {
    const block = { id: "a", type: "box", size: [100, 80, 40] };
    const disc = new SketchMaker();
    disc.circle("c", [0, 0], 10);
    const top = buildSteps(block, drawn(disc, { on: "face", face: [{ body: "a:block", face: "a:side:z+" }] }), {
      id: "e",
      type: "extrude",
      sketch: ["k"],
      distance: 7,
    });
    expect(top.reports.at(-1)!.box!.max[2]).toBeCloseTo(47, 6);
    expect(volume(top)).toBeCloseTo(700 * Math.PI, 6);
    for (const on of ["yz", "zx"]) {
      const built = buildSteps(drawn(disc, { on }), { id: "e", type: "extrude", sketch: ["k"], distance: 7 });
      const box = built.reports.at(-1)!.box!;
      expect(box.max[on === "yz" ? 0 : 1]).toBeCloseTo(7, 6);
      expect(box.max[2]).toBeCloseTo(10, 6);
    }
  });

  test("as a sheet, open curves too", () => {
    const d = new SketchMaker();
    d.line("a", [0, 0], [30, 0]);
    d.arc("b", [30, 10], "a_b", [40, 10]);
    const built = buildSteps(drawn(d), { id: "e", type: "extrude", sketch: ["k"], as: "sheet", distance: 5 });
    expect(built.reports[0]).toMatchObject({ kind: "sheet", closed: false });
    expect(built.reports[0]!.area).toBeCloseTo(5 * (30 + (Math.PI / 2) * 10), 9);
  });
});

describe("as a cut", () => {
  const block = { id: "a", type: "box", size: [100, 60, 20] };
  const cut = (values: Step) => ({ id: "e", type: "extrude", sketch: ["k"], into: "cut", targets: ["a"], ...values });
  const slot = () => {
    const d = new SketchMaker();
    d.circle("c", [10, 0], 8);
    return d;
  };

  test("by a distance, through all, and in several bodies at once", () => {
    const deep = buildSteps(block, drawn(slot()), cut({ distance: 5 }));
    expect(volume(deep)).toBeCloseTo(120_000 - 64 * Math.PI * 5, 5);
    const through = buildSteps(block, drawn(slot()), cut({ extent: "through" }));
    expect(volume(through)).toBeCloseTo(120_000 - 64 * Math.PI * 20, 5);
    const both = buildSteps(
      block,
      { ...block, id: "b", at: [0, 0, 30] },
      drawn(slot()),
      cut({ extent: "through", targets: ["a", "b"] }),
    );
    expect(volume(both)).toBeCloseTo(2 * (120_000 - 64 * Math.PI * 20), 5);
    expect(both.bench.map(({ name }) => name).sort()).toEqual(["Block", "Block 2", "Sketch"]);
  });

  test("through all both ways: whichever way the drawing looks, from within, beside or behind", () => {
    for (const at of [
      [0, 0, -10],
      [0, 0, 0],
      [0, 0, -50],
      [0, 0, 40],
    ])
      for (const flip of [false, true]) {
        const cutThrough = buildSteps({ ...block, at }, drawn(slot()), cut({ extent: "both", flip }));
        expect(cutThrough.step("e").error ?? null).toBeNull();
        expect(volume(cutThrough)).toBeCloseTo(120_000 - 64 * Math.PI * 20, 5);
      }
  });

  test("what cannot be cut says so", () => {
    const message = (...steps: Step[]) => buildSteps(...steps).step("e").error!.message;
    expect(message(block, drawn(slot()), cut({ distance: 5, flip: true }))).toBe(
      "The cut only touches the skin of Block. Turn it the other way round, or make it longer.",
    );
    expect(message({ ...block, at: [0, 0, 50] }, drawn(slot()), cut({ distance: 5 }))).toBe(
      "The cut misses Block by 45 mm. Move the sketch, or turn it the other way round.",
    );
    expect(message(block, drawn(slot()), cut({ extent: "through", flip: true }))).toBe(
      "The bodies lie behind the sketch. Turn it the other way round.",
    );
    expect(message(drawn(slot()), { id: "e", type: "extrude", sketch: ["k"], extent: "through" })).toContain(
      "Through all needs bodies to go through",
    );
  });
});

describe("as a knife", () => {
  test("a spline across a block divides it; the parts add up, and the sides are told", () => {
    const d = new SketchMaker();
    const points = [
      [-70, 5],
      [-20, -9],
      [15, 12],
      [70, -4],
    ].map(([x, y], i) => d.point(`p${i}`, x!, y!));
    d.entities.push({ id: "s", type: "spline", form: "through", closed: false, points, construction: false });
    const built = build(
      jobOf([
        { id: "a", type: "box", size: [100, 60, 20] },
        drawn(d),
        { id: "t", type: "seam", stock: ["a"], cutters: ["k"] },
      ]),
      { pieces: "t" },
    );
    expect(built.step("t").error).toBeUndefined();
    expect(built.pieces!.map(({ piece }) => Object.values(piece.sides).join()).sort()).toEqual(["back", "front"]);
    expect(volumeOfStep(built, "t")).toBeCloseTo(120_000, 4);
  });

  test("a closed outline cuts a piece out; several curves at once; a short one says by how much", () => {
    const d = new SketchMaker();
    d.circle("c", [0, 0], 15);
    d.line("l", [-80, 20], [80, 20]);
    const built = buildSteps({ id: "a", type: "box", size: [100, 60, 20] }, drawn(d), {
      id: "t",
      type: "seam",
      stock: ["a"],
      cutters: ["k"],
    });
    expect(
      built.reports
        .filter(({ id }) => id.startsWith("t:"))
        .map(({ volume: v }) => Math.round(v!))
        .sort((x, y) => x - y),
    ).toEqual(
      [225 * Math.PI * 20, 100 * 10 * 20, (100 * 50 - 225 * Math.PI) * 20].map(Math.round).sort((x, y) => x - y),
    );
    const short = new SketchMaker();
    short.line("l", [-80, 20], [30, 20]);
    expect(
      buildSteps({ id: "a", type: "box", size: [100, 60, 20] }, drawn(short), {
        id: "t",
        type: "seam",
        stock: ["a"],
        cutters: ["k"],
      }).step("t").error!.message,
    ).toBe("Sketch stops short inside Block. It has to reach 20 mm further. Extend it, or use a workplane.");
  });
});

test.each([
  ["one way", { from: 5 }, [5, 15]],
  ["one way, the other way round", { from: 5, flip: true }, [-15, -5]],
  ["both ways alike", { extent: "symmetric", from: 5 }, [0, 10]],
  ["two distances, from below", { extent: "two", second: 3, from: -20 }, [-23, -10]],
])("it begins off its plane, %s", (_name, more, [low, high]) => {
  const { box } = buildSteps(drawn(plate(100, 60)), { id: "e", type: "extrude", sketch: ["k"], distance: 10, ...more })
    .reports[0]!;
  expect(box!.min[2]).toBeCloseTo(low!, 6);
  expect(box!.max[2]).toBeCloseTo(high!, 6);
});

describe("driven by numbers", () => {
  const steps = [
    drawn(withHole(plate("wide", "wide * 3/5"), 10, 5, 8)),
    { id: "e", type: "extrude", sketch: ["k"], distance: "wide / 10", regions: [{ key: "s0+ s1+ s2+ s3+" }] },
    { id: "w", type: "workplane", base: "face", face: [{ body: "e:solid", face: "e:side:s1" }] },
  ];

  test.each([50, 100, 150])("every reference lands where it did when the width is %d", (wide) => {
    const built = build(jobOf(steps, { parameters: [{ name: "wide", formula: wide }] }));
    expect(built.steps.map(({ state }) => state)).toEqual(["good", "good", "good"]);
    expect(volume(built)).toBeCloseTo((wide * wide * 0.6 - 16 * Math.PI) * (wide / 10), 4);
    const plane = built.bench.at(-1)!.item as Workplane;
    expect(plane.normal[0]).toBeCloseTo(1, 9);
    expect(plane.origin[0]).toBeCloseTo(wide / 2, 9);
  });

  test("a line deleted and drawn again under another id: the region is found by its place, with a warning", () => {
    const redrawn = structuredClone(steps) as unknown as {
      entities: { id: string }[];
      constraints: { of: string[] }[];
      dimensions: { of: string[] }[];
    }[];
    const sketch = redrawn[0]!;
    for (const entity of sketch.entities) if (entity.id === "s2") entity.id = "again";
    for (const rule of [...sketch.constraints, ...sketch.dimensions])
      rule.of = rule.of.map((id) => (id === "s2" ? "again" : id));
    const extrude = redrawn[1] as unknown as { regions: unknown[] };
    extrude.regions = [{ key: "s0+ s1+ s2+ s3+", inner: [-10, 0] }];
    const built = build(jobOf(redrawn as unknown as Step[], { parameters: [{ name: "wide", formula: 100 }] }));
    expect(built.steps.map(({ state }) => state)).toEqual(["good", "warned", "good"]);
    expect(built.step("e").warnings[0]!.message).toContain("has other curves round it now");
    extrude.regions = [{ key: "s0+ s1+ s2+ s3+" }];
    expect(
      build(jobOf(redrawn as unknown as Step[], { parameters: [{ name: "wide", formula: 100 }] })).step("e").error!
        .message,
    ).toBe("A chosen region of the sketch is no longer enclosed. Choose the regions again.");
  });
});

describe("what was picked of a drawing, after it changed", () => {
  const redrawn = (d: SketchMaker): Step => {
    const text = JSON.stringify(drawn(d)).replaceAll('"s1"', '"again"');
    return JSON.parse(text) as Step;
  };

  test("a face of the extrusion whose line was drawn again: found by its looks with a warning, or asked for", () => {
    const print = { kind: "plane", area: 600, centre: [50, 0, 5], direction: [1, 0, 0] };
    const sheet = (sketch: Step, face: Step): Step[] => [
      sketch,
      { id: "e", type: "extrude", sketch: ["k"], distance: 10 },
      { id: "w", type: "workplane", base: "face", face: [face] },
    ];
    const before = buildSteps(...sheet(drawn(plate(100, 60)), { body: "e:solid", face: "e:side:s1", print }));
    expect(before.step("w").state).toBe("good");
    const after = buildSteps(...sheet(redrawn(plate(100, 60)), { body: "e:solid", face: "e:side:s1", print }));
    expect(after.step("w").state).toBe("warned");
    expect((after.bench.at(-1)!.item as Workplane).origin[0]).toBeCloseTo(50, 9);
    expect(after.step("w").warnings[0]!.message).toContain("found again by its shape and place");
    const bare = buildSteps(...sheet(redrawn(plate(100, 60)), { body: "e:solid", face: "e:side:s1" }));
    expect(bare.step("w").error!.message).toContain("Pick the face again");
  });

  test("a knife moved by half of the block: the side that was scrapped stays scrapped", () => {
    const sides = [-45, -15, 10, 45].map((y) => {
      const d = new SketchMaker();
      d.line("l", [-80, y], [80, y]);
      const built = buildSteps({ id: "a", type: "box", size: [100, 100, 20] }, drawn(d), {
        id: "t",
        type: "seam",
        preset: "trim",
        stock: ["a"],
        cutters: ["k"],
        keepSide: { "k:sketch": "front" },
      });
      const kept = Math.round(volumeOfStep(built, "t"));
      const [below, above] = [100 * (50 + y) * 20, 100 * (50 - y) * 20];
      expect([below, above]).toContain(kept);
      return kept === below ? "below" : "above";
    });
    expect(new Set(sides).size).toBe(1);
  });
});

describe("what cannot be", () => {
  test.each([
    [
      "an open outline",
      (d: SketchMaker) => d.line("l", [0, 0], [5, 0]),
      "Sketch encloses nothing. It is open at 0 mm, 0 mm, where “l” ends. Close the outline, or make a sheet.",
    ],
    ["nothing drawn", (d: SketchMaker) => d.point("p", 0, 0), "Sketch holds no curves yet. Draw an outline in it."],
  ] as [string, (d: SketchMaker) => void, string][])("%s", (_name, make, message) => {
    const d = new SketchMaker();
    make(d);
    expect(buildSteps(drawn(d), { id: "e", type: "extrude", sketch: ["k"] }).step("e").error!.message).toBe(message);
  });

  test("sizes that contradict each other fail the sketch and name the culprits; repeated ones warn", () => {
    const d = plate(100, 60);
    d.size("distance", 90, "s2");
    expect(buildSteps(drawn(d)).step("k").error!.message).toMatch(
      /cannot all hold\. Take one out, or change a value\.$/,
    );
    const twice = plate(100, 60);
    twice.size("distance", 100, "s2");
    expect(buildSteps(drawn(twice)).step("k")).toMatchObject({ state: "warned" });
  });

  test("a curve on a point that is not there; one id twice; a size that is no number", () => {
    const entities = [
      { id: "p", type: "point", x: 0, y: 0 },
      { id: "l", type: "line", from: "p", to: "gone" },
    ];
    expect(buildSteps({ id: "k", type: "sketch", entities }).step("k").error!.message).toBe(
      "The line “l” stands on “gone”, which is no point of this sketch.",
    );
    const again = [entities[0]!, entities[0]!];
    expect(buildSteps({ id: "k", type: "sketch", entities: again }).step("k").error!.message).toBe(
      "The id “p” is there twice. Give each its own.",
    );
    expect(buildSteps(drawn(plate("wide", 60))).step("k").error!.message).toContain("There is no parameter “wide”");
  });
});
