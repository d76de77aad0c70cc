import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, volumeOfStep } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

const outline = (draft: SketchMaker, more: Step = {}): Step => ({
  id: "k",
  type: "sketch",
  entities: draft.entities,
  ...more,
});

function rectangle(w: number, h: number, x = 0, y = 0): SketchMaker {
  const draft = new SketchMaker();
  const at = [
    [x - w / 2, y - h / 2],
    [x + w / 2, y - h / 2],
    [x + w / 2, y + h / 2],
    [x - w / 2, y + h / 2],
  ] as const;
  for (const [i, [u, v]] of at.entries()) draft.point(`p${i}`, u, v);
  for (let i = 0; i < 4; i++) draft.line(`l${i}`, `p${i}`, `p${(i + 1) % 4}`);
  return draft;
}

const disc = (radius: number): SketchMaker => {
  const draft = new SketchMaker();
  draft.circle("c", [0, 0], radius);
  return draft;
};

const { tan, PI } = Math;
const deg = PI / 180;

describe("drafted sides", () => {
  const [a, b, h] = [40, 24, 10];
  const k = (angle: number) => tan(angle * deg);
  // The prismatoid of a rectangle whose sides move in by k·z: the integral of (a − 2kz)(b − 2kz).
  const pyramid = (angle: number, height = h) =>
    a * b * height - k(angle) * (a + b) * height ** 2 + (4 / 3) * k(angle) ** 2 * height ** 3;
  const frustum = (angle: number, r: number) =>
    (PI * h * (r ** 2 + r * (r - k(angle) * h) + (r - k(angle) * h) ** 2)) / 3;

  test.each([5, 12.5, -8])("a rectangle by %d°: the prismatoid", (draft) => {
    const built = buildSteps(outline(rectangle(a, b)), { id: "e", type: "extrude", sketch: ["k"], distance: h, draft });
    expect(volumeOfStep(built, "e") / pyramid(draft)).toBeCloseTo(1, 9);
    expect(built.bodies[0]!.faces.toSorted()).toEqual([
      "e:cap:base",
      "e:cap:end",
      "e:side:l0",
      "e:side:l1",
      "e:side:l2",
      "e:side:l3",
    ]);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true });
  });

  test.each([3, 30, -10])("a circle by %d°: the frustum of a cone", (draft) => {
    const built = buildSteps(outline(disc(12)), { id: "e", type: "extrude", sketch: ["k"], distance: h, draft });
    expect(volumeOfStep(built, "e") / frustum(draft, 12)).toBeCloseTo(1, 9);
  });

  test("a ring gets thinner on both sides", () => {
    const draft = disc(12);
    draft.circle("hole", [0, 0], 5);
    const built = buildSteps(outline(draft), { id: "e", type: "extrude", sketch: ["k"], distance: h, draft: 4 });
    expect(volumeOfStep(built, "e") / (frustum(4, 12) - frustum(-4, 5))).toBeCloseTo(1, 9);
  });

  test("both ways: narrower both ways, with names of their own", () => {
    const built = buildSteps(outline(rectangle(a, b)), {
      id: "e",
      type: "extrude",
      sketch: ["k"],
      extent: "symmetric",
      distance: 2 * h,
      draft: 5,
    });
    expect(volumeOfStep(built, "e") / (2 * pyramid(5))).toBeCloseTo(1, 9);
    expect(built.bodies[0]!.faces).toHaveLength(10);
    expect(built.bodies[0]!.faces).toContain("e:back:l2");
    expect(built.bodies[0]!.faces).toContain("e:side:l2");
  });

  test("the other way round, and begun off the plane: the plane stays the neutral one", () => {
    const built = buildSteps(outline(rectangle(a, b)), {
      id: "e",
      type: "extrude",
      sketch: ["k"],
      distance: h,
      from: 2,
      flip: true,
      draft: 5,
    });
    expect(volumeOfStep(built, "e") / (pyramid(5, h + 2) - pyramid(5, 2))).toBeCloseTo(1, 9);
  });

  test.each([
    ["a rectangle", rectangle(a, b), 50.19],
    ["a circle", disc(12), 50.19],
  ])("sides of %s that meet before the end: how much fits, and that does", (_name, draft, most) => {
    const step = { id: "e", type: "extrude", sketch: ["k"], distance: h, draft: 70 };
    const { error, state } = buildSteps(outline(draft), step).step("e");
    expect(state).toBe("failed");
    expect(error).toMatchObject({ code: "draft-closes", field: "draft" });
    const fits = Number(error!.repair!.set.draft);
    expect(error!.message).toBe(`With a draft of 70° the sides meet before the end. Up to ${fits}° fits.`);
    // The tip is reached where the smaller half width, 12, is used up over the height.
    expect(fits).toBeLessThanOrEqual(most);
    expect(fits).toBeGreaterThan(most - 2);
    expect(buildSteps(outline(draft), { ...step, ...error!.repair!.set }).step("e").state).toBe("good");
  });

  test("sides that cannot be drafted are refused", () => {
    const draft = new SketchMaker();
    draft.ellipse("o", [0, 0], [12, 0], 7);
    const { error } = buildSteps(outline(draft), {
      id: "e",
      type: "extrude",
      sketch: ["k"],
      distance: h,
      draft: 5,
    }).step("e");
    expect(error!.message).toBe("These sides cannot be drafted: only sides from straight lines and arcs can.");
  });
});

describe("up to something", () => {
  const small = outline(rectangle(10, 10));

  test("a workplane aslant: the mean height times the area", () => {
    const built = buildSteps(
      small,
      { id: "block", type: "box", size: [60, 60, 5], at: [0, 0, -100] },
      {
        id: "w",
        type: "workplane",
        base: "edge",
        edge: [{ body: "block", print: { kind: "line", at: [30, 0, -95] } }],
        face: [{ body: "block", face: "block:side:z+" }],
        angle: -20,
      },
      { id: "e", type: "extrude", sketch: ["k"], extent: "to", to: "workplane", toPlane: ["w"], flip: true },
    );
    expect(built.step("e")).toMatchObject({ state: "good" });
    const [plane] = built.bench.flatMap(({ item }) => (item.kind === "workplane" ? [item] : []));
    const { origin, normal } = plane!;
    const mean = Math.abs(origin[2] + (origin[0] * normal[0] + origin[1] * normal[1]) / normal[2]);
    expect(volumeOfStep(built, "e") / (100 * mean)).toBeCloseTo(1, 9);
  });

  test("a flat face ends it endlessly, a curved one where it reaches", () => {
    const ball = { id: "ball", type: "sphere", diameter: 80, at: [0, 0, 100] };
    const built = buildSteps(
      outline(disc(10)),
      ball,
      {
        id: "e",
        type: "extrude",
        sketch: ["k"],
        extent: "to",
        to: "face",
        toFace: [{ body: "ball", print: { kind: "sphere" } }],
      },
      { id: "block", type: "box", size: [5, 5, 5], at: [100, 0, 40] },
      {
        id: "f",
        type: "extrude",
        sketch: ["k"],
        extent: "to",
        to: "face",
        toFace: [{ body: "block", face: "block:side:z-" }],
      },
    );
    // Up to the ball's near side: the cylinder as high as the centre, less half the sphere's part over the disc.
    const [r, R] = [10, 40];
    const part = (2 * PI * (R ** 3 - (R ** 2 - r ** 2) ** 1.5)) / 3;
    expect(volumeOfStep(built, "e") / (PI * r * r * 100 - part)).toBeCloseTo(1, 8);
    expect(volumeOfStep(built, "f") / (PI * r * r * 40)).toBeCloseTo(1, 9);
  });

  test("what comes next, across all bodies; it follows when another is put in between", () => {
    const far = { id: "far", type: "box", size: [60, 60, 5], at: [0, 0, 50] };
    const near = { id: "near", type: "box", size: [60, 60, 5], at: [0, 0, 20] };
    const e = { id: "e", type: "extrude", sketch: ["k"], extent: "next" };
    expect(volumeOfStep(buildSteps(small, far, e), "e")).toBeCloseTo(5000, 6);
    expect(volumeOfStep(buildSteps(small, far, near, e), "e")).toBeCloseTo(2000, 6);
    // One part of the outline meets the one, the rest the other.
    const half = { ...near, at: [30, 0, 20] };
    expect(volumeOfStep(buildSteps(small, far, half, e), "e")).toBeCloseTo(1000 + 2500, 6);
  });

  test("a round bar in the way of a part: it would have to go round behind it, and says so", () => {
    const far = { id: "far", type: "box", size: [60, 60, 5], at: [0, 0, 50] };
    const bar = { id: "bar", type: "cylinder", diameter: 4, height: 60, at: [-30, 0, 25], axis: "x" };
    const { error } = buildSteps(small, far, bar, { id: "e", type: "extrude", sketch: ["k"], extent: "next" }).step(
      "e",
    );
    expect(error!.message).toBe(
      "Every solid is in the way of a part of the outline, and it would go round behind. Extend it, or end at a workplane.",
    );
  });

  test("begun inside a body it goes to its skin", () => {
    const block = { id: "block", type: "box", size: [60, 60, 50], at: [0, 0, -20] };
    expect(
      volumeOfStep(buildSteps(small, block, { id: "e", type: "extrude", sketch: ["k"], extent: "next" }), "e"),
    ).toBeCloseTo(3000, 6);
  });

  test("bodies that are named, as joined on: it closes the gap", () => {
    const built = buildSteps(
      { id: "floor", type: "box", size: [40, 40, 10], at: [0, 0, -10] },
      { id: "bar", type: "cylinder", diameter: 20, height: 60, at: [-30, 0, 40], axis: "x" },
      small,
      {
        id: "e",
        type: "extrude",
        sketch: ["k"],
        extent: "to",
        to: "body",
        toBody: ["bar"],
        into: "join",
        targets: ["floor", "bar"],
      },
    );
    expect(built.step("e").state).toBe("good");
    expect(built.reports).toHaveLength(1);
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, genus: 0 });
    // Under a bar of radius R at height H: the mean height over a strip of width w is H − (w√(R²−w²/4)/2 + R² asin(w/2R))/w.
    const [R, H, w] = [10, 40, 10];
    const chord = (w * Math.sqrt(R * R - (w * w) / 4)) / 2 + R * R * Math.asin(w / (2 * R));
    expect(built.reports[0]!.volume! / (16000 + PI * R * R * 60 + w * (H * w - chord))).toBeCloseTo(1, 8);
  });

  test.each([
    [
      "a body that does not cover the outline",
      { id: "block", type: "box", size: [6, 60, 5], at: [0, 0, 30] },
      {},
      "Block does not reach across the whole outline, so Sketch runs past it. Extend it, or end at a workplane.",
    ],
    [
      "a body behind",
      { id: "block", type: "box", size: [60, 60, 5], at: [0, 0, -30] },
      {},
      "Block lies behind where it begins. Turn it the other way round.",
    ],
    ["nothing at all", { id: "block", type: "workplane" }, {}, "No solid is there to end at. Give a distance."],
    [
      "a plane that stands square to it",
      { id: "block", type: "workplane", base: "yz" },
      { extent: "to", to: "workplane", toPlane: ["block"] },
      "Workplane stands square to the sketch, so nothing ends there. Pick another.",
    ],
  ])("%s is refused", (_name, block, more, message) => {
    expect(
      buildSteps(small, block, { id: "e", type: "extrude", sketch: ["k"], extent: "next", ...more }).step("e").error!
        .message,
    ).toBe(message);
  });
});

describe("flat faces as the profile", () => {
  const block = { id: "block", type: "box", size: [40, 30, 10] };
  const pin = { id: "pin", type: "cylinder", diameter: 8, height: 30, at: [5, 0, -5] };
  const holed = {
    id: "holed",
    type: "seam",
    preset: "subtract",
    stock: ["block"],
    cutters: ["pin"],
    keepCutters: false,
  };

  test("a face with a hole drawn out and joined on makes the body longer, hole and all", () => {
    const built = buildSteps(block, pin, holed, {
      id: "e",
      type: "extrude",
      of: "faces",
      faces: [{ body: "holed", face: "block:side:z+" }],
      distance: 7,
      into: "join",
      targets: ["holed"],
    });
    expect(built.step("e").state).toBe("good");
    expect(built.reports[0]!.volume! / (17 * (1200 - 16 * PI))).toBeCloseTo(1, 9);
    expect(built.reports[0]).toMatchObject({ valid: true, genus: 1 });
    expect(built.bodies[0]!.faces).toContain("block:side:x+");
  });

  test("its sides keep their names when the body changes", () => {
    const names = (size: number[]) =>
      buildSteps(
        { ...block, size },
        { id: "e", type: "extrude", of: "faces", faces: [{ body: "block", face: "block:side:z+" }], distance: 7 },
      )
        .named("Solid")
        .faces.toSorted();
    expect(names([50, 22, 14])).toEqual(names([40, 30, 10]));
  });

  test("turned about an edge: Pappus", () => {
    const built = buildSteps(block, {
      id: "r",
      type: "revolve",
      of: "faces",
      faces: [{ body: "block", face: "block:side:x+" }],
      axis: "edge",
      edge: [{ body: "block", edge: "block:side:x+|block:side:z-" }],
      extent: "angle",
      angle: 90,
    });
    expect(volumeOfStep(built, "r") / (300 * 5 * (PI / 2))).toBeCloseTo(1, 9);
  });

  test("several have to lie in one plane", () => {
    const faces = ["x+", "z+"].map((side) => ({ body: "block", face: `block:side:${side}` }));
    const { error } = buildSteps(block, { id: "e", type: "extrude", of: "faces", faces, distance: 7 }).step("e");
    expect(error!.message).toBe("The picked faces do not lie in one plane. Pick those that do.");
  });
});
