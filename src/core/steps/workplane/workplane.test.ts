import { beforeAll, describe, expect, test } from "vitest";
import { dot, length, sub, type Vec3 } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { topologyNames } from "../../naming";
import { build, buildSteps, jobOf, volumeOfStep } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" };
const tube: Step = { id: "c", type: "cylinder", diameter: 10, height: 50, at: [100, 0, 0] };
const face = (name: string, body = "a:block") => ({ body, face: name });
const side = (name: string) => face(`a:side:${name}`);
const edgeAt = (at: Vec3, body = "a:block") => ({ body, print: { at } });
const cornerAt = (at: Vec3) => ({ body: "a:block", print: { at } });

function planeOf(values: Step, ...before: Step[]) {
  const built = buildSteps(block, tube, ...before, { id: "w", type: "workplane", ...values });
  const item = built.bench.find(({ item: { id } }) => id === "w:plane")?.item;
  if (item?.kind !== "workplane") throw new Error(built.step("w").error?.message);
  return item;
}

/** The plane's height over the origin along its normal, and the normal: what makes it this plane. */
const standing = ({ origin, normal }: { origin: Vec3; normal: Vec3 }) => [
  Math.round(dot(origin, normal) * 1e6) / 1e6 + 0,
  ...normal.map((value) => Math.round(value * 1e6) / 1e6 + 0),
];
const H = Math.SQRT1_2;
const close = (got: number[], wanted: number[]) => {
  for (const [i, value] of got.entries()) expect(value).toBeCloseTo(wanted[i]!, 5);
};

describe("each way to a plane", () => {
  test.each([
    ["a principal one with offset", { base: "yz", offset: "1/2 in" }, [12.7, 1, 0, 0]],
    ["square to a wall, at a place on it", { base: "square", face: [side("y-")], through: [12, 0, 7] }, [12, 1, 0, 0]],
    ["to a wall, laid level", { base: "square", face: [side("y-")], through: [12, 0, 7], angle: 90 }, [7, 0, 0, 1]],
    ["to the top, at a place above it", { base: "square", face: [side("z+")], through: [5, 9, 60] }, [5, 1, 0, 0]],
    [
      "to the top, turned",
      { base: "square", face: [side("z+")], through: [5, 9, 20], angle: 90, offset: 2 },
      [11, 0, 1, 0],
    ],
    [
      "to a round skin: along its axis through it",
      { base: "square", face: [face("c:side", "c:cylinder")], through: [105 + 1, 0, 30] },
      [0, 0, 1, 0],
    ],
    ["a face, flipped", { base: "face", face: [side("z+")], offset: 5, flip: true }, [-25, 0, 0, -1]],
    [
      "about the top front edge, 0° from the face that it bounds",
      { base: "edge", edge: [edgeAt([20, 0, 20])], face: [side("z+")] },
      [20, 0, 0, 1],
    ],
    [
      "through three corners",
      { base: "points", corners: [cornerAt([0, 0, 0]), cornerAt([40, 0, 0]), cornerAt([40, 30, 20])] },
      [0, 0, -20 / Math.hypot(20, 30), 30 / Math.hypot(20, 30)],
    ],
    ["midway between opposite faces", { base: "midway", faces: [side("x-"), side("x+")] }, [-20, -1, 0, 0]],
    [
      "midway between faces at a corner goes into the material",
      { base: "midway", faces: [side("x+"), side("z+")] },
      [20 * H, H, 0, -H],
    ],
    ["and the other way", { base: "midway", faces: [side("x+"), side("z+")], otherHalf: true }, [60 * H, H, 0, H]],
    ["touching a cylinder at 0°", { base: "tangent", face: [face("c:side", "c:cylinder")] }, [105, 1, 0, 0]],
    ["touching it at 90°", { base: "tangent", face: [face("c:side", "c:cylinder")], angle: 90 }, [5, 0, 1, 0]],
    ["square to a straight edge, 10 along", { base: "curve", edge: [edgeAt([20, 0, 20])], along: 10 }, null],
    ["through a corner, parallel to XY", { base: "parallel", corners: [cornerAt([40, 30, 20])] }, [20, 0, 0, 1]],
    [
      "through a corner, parallel to a face",
      { base: "parallel", parallelTo: "face", face: [side("x+")], corners: [cornerAt([0, 0, 0])] },
      [0, 1, 0, 0],
    ],
    ["a typed direction", { base: "normal", normal: [2, 0, 2], through: [10, 5, 0] }, [10 * H, H, 0, H]],
    [
      "a direction hardly longer than nothing",
      { base: "normal", normal: [0, 1e-200, 0], through: [0, 4, 0] },
      [4, 0, 1, 0],
    ],
    ["level, turned by 45° about X", { base: "turned", angle: 45 }, [0, 0, -H, H]],
    [
      "level, turned by 90° about Y through a point",
      { base: "turned", axis: "y", angle: 90, through: [7, 1, 2] },
      [5, 1, 0, 0],
    ],
    [
      "a face, turned by half a turn about an axis beside it",
      { base: "turned", parallelTo: "face", face: [side("z+")], axis: "y", angle: "180 deg", through: [0, 0, 30] },
      [-40, 0, 0, -1],
    ],
    ["turned, then moved along what it is by then", { base: "turned", axis: "x", angle: -90, offset: 3 }, [3, 0, 1, 0]],
  ] as [string, Step, number[] | null][])("%s", (_name, values, wanted) => {
    const plane = planeOf(values);
    expect(length(plane.normal)).toBeCloseTo(1, 12);
    if (wanted) close(standing(plane), wanted);
    else {
      expect(Math.abs(plane.normal[0])).toBeCloseTo(1, 9);
      expect([10, 30]).toContain(Math.round(plane.origin[0] * 1e6) / 1e6);
    }
  });

  test("at an angle about an edge: it holds the edge and makes the angle with the face", () => {
    const plane = planeOf({ base: "edge", edge: [edgeAt([20, 0, 20])], face: [side("z+")], angle: "30 deg" });
    expect(dot(sub([0, 0, 20], plane.origin), plane.normal)).toBeCloseTo(0, 9);
    expect(dot(sub([40, 0, 20], plane.origin), plane.normal)).toBeCloseTo(0, 9);
    expect(Math.acos(dot(plane.normal, [0, 0, 1]))).toBeCloseTo(Math.PI / 6, 9);
  });

  test("square to a circle: 1/4 of the way round the rim, its normal is the tangent", () => {
    const plane = planeOf({
      base: "curve",
      edge: [{ body: "c:cylinder", print: { kind: "circle", at: [95, 0, 50] } }],
      along: (Math.PI * 10) / 4,
    });
    expect(length(sub(plane.origin, [100, 0, 50]))).toBeCloseTo(5, 9);
    expect(dot(plane.normal, sub(plane.origin, [100, 0, 50]))).toBeCloseTo(0, 9);
    expect(plane.normal[2]).toBeCloseTo(0, 12);
  });

  test("square to a ball's pole, and to no place that is not one: its middle, a ring's, a cone's tip", () => {
    const solids: Step[] = [
      { id: "s", type: "sphere", diameter: 40 },
      { id: "k", type: "cone", diameter: 40, height: 30, axis: "x" },
      { id: "t", type: "torus", diameter: 80, section: 16 },
    ];
    const at = (ref: { body: string; face: string }, through: number[]) => {
      const built = buildSteps(...solids, { id: "w", type: "workplane", base: "square", face: [ref], through });
      const item = built.bench.find(({ item: { id } }) => id === "w:plane")?.item;
      return built.step("w").error?.message ?? (item?.kind === "workplane" && item.normal.map((x) => x || 0));
    };
    const ball = face("s:skin", "s:sphere");
    const tip = face("k:side", "k:cone");
    const ring = face("t:skin", "t:torus");
    for (const pole of [20, -20, 19, 30]) close(at(ball, [0, 0, pole]) as number[], [1, 0, 0]);
    close(at(ball, [1e-9, 1e-9, 20]) as number[], [1, 0, 0]);
    for (const [ref, through] of [
      [ball, [0, 0, 0]],
      [ring, [0, 0, 0]],
      [ring, [40, 0, 0]],
      [ring, [0, 0, 50]],
      [tip, [12, 0, 0]],
    ] as const)
      expect(at(ref, [...through])).toMatch(/^Several places of the face/);
    expect(at(tip, [30, 0, 0])).toMatch(/^At that place the face looks in several ways/);
    close(at(tip, [29.9, 20 / 300, 0]) as number[], [-30 / Math.hypot(20, 30), 20 / Math.hypot(20, 30), 0]);
  });

  test("from another workplane, offset and parallel", () => {
    const first = {
      id: "w0",
      type: "workplane",
      base: "edge",
      edge: [edgeAt([20, 0, 20])],
      face: [side("z+")],
      angle: 45,
    };
    const base = planeOf({ base: "workplane", plane: ["w0:plane"] }, first);
    const offset = planeOf({ base: "workplane", plane: ["w0:plane"], offset: 7 }, first);
    expect(dot(sub(offset.origin, base.origin), base.normal)).toBeCloseTo(7, 9);
    const through = planeOf(
      { base: "parallel", parallelTo: "workplane", plane: ["w0"], corners: [cornerAt([0, 30, 0])] },
      first,
    );
    expect(through.normal).toEqual(base.normal);
    expect(dot(sub(through.origin, [0, 30, 0]), base.normal)).toBeCloseTo(0, 9);
  });

  test("it cuts as an endless plane: half of the block on each side of the midway plane", () => {
    const built = buildSteps(
      block,
      { id: "w", type: "workplane", base: "midway", faces: [side("x-"), side("x+")] },
      { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"] },
    );
    expect(volumeOfStep(built, "s")).toBeCloseTo((40 * 30 * 20) / 2, 6);
  });
});

describe("references hold", () => {
  const names = (size: number[]) => {
    const built = buildSteps({ ...block, size });
    return topologyNames(built.bodies[0]!.shape, built.bodies[0]!.faces);
  };

  test("an edge and corners by name stay on what they meant when every size changes by half", () => {
    const edge = "a:side:y-|a:side:z+";
    const corners = ["a:side:x-|a:side:y-|a:side:z-", "a:side:x+|a:side:y-|a:side:z-", "a:side:x+|a:side:y+|a:side:z+"];
    expect(names([40, 30, 20]).edges).toContain(edge);
    for (const k of [0.5, 1, 1.5]) {
      const size = [40 * k, 30 * (2 - k), 20 * k];
      const built = buildSteps(
        { ...block, size },
        { id: "e", type: "workplane", base: "edge", edge: [{ body: "a:block", edge }], face: [side("z+")], angle: 90 },
        { id: "p", type: "workplane", base: "points", corners: corners.map((corner) => ({ body: "a:block", corner })) },
      );
      expect(built.steps.map(({ state }) => state)).toEqual(["good", "good", "good"]);
      const [e, p] = built.bench.slice(1).map(({ item }) => item as { origin: Vec3; normal: Vec3 });
      expect(Math.abs(e!.normal[1])).toBeCloseTo(1, 9);
      expect(e!.origin[1]).toBeCloseTo(0, 9);
      expect(dot(sub([size[0]!, size[1]!, size[2]!], p!.origin), p!.normal)).toBeCloseTo(0, 9);
    }
  });

  test("a lost name is found by its place, with a warning; without a place it is an error", () => {
    const far = { body: "a:block", edge: "gone|away", print: { kind: "line", at: [20, 0, 20], length: 40 } };
    const built = build(jobOf([block, { id: "w", type: "workplane", base: "edge", edge: [far], face: [side("z+")] }]));
    expect(built.step("w")).toMatchObject({ state: "warned" });
    expect(built.step("w").warnings[0]!.message).toContain("found again by its shape and place");
    const lost = build(
      jobOf([block, { id: "w", type: "workplane", base: "curve", edge: [{ body: "a:block", edge: "gone|away" }] }]),
    );
    expect(lost.step("w").error!.message).toBe(
      "The picked edge “gone|away” is no longer on this body. Pick the edge again.",
    );
  });
});

describe("what cannot be", () => {
  test.each([
    [{ base: "points", corners: [cornerAt([0, 0, 0])] }, "Pick three corners that the workplane goes through."],
    [
      { base: "points", corners: [cornerAt([0, 0, 0]), cornerAt([40, 0, 0]), cornerAt([0, 0, 0])] },
      "The three corners lie on one line, so they fix no plane. Pick another corner.",
    ],
    [
      { base: "normal", normal: [0, 0, 0] },
      "0, 0, 0 is no direction. Give the way in which its front looks, such as 1, 0, 1.",
    ],
    [{ base: "turned", parallelTo: "workplane" }, "Pick the workplane to start from."],
    [{ base: "midway", faces: [side("x+")] }, "Pick the two flat faces that the workplane lies between."],
    [{ base: "tangent", face: [side("x+")] }, "The picked face is not cylindrical. Pick a cylindrical one."],
    [
      { base: "edge", edge: [{ body: "c:cylinder", print: { kind: "circle", at: [95, 0, 50] } }] },
      "The picked edge is not straight. Pick a straight one.",
    ],
    [
      { base: "edge", edge: [edgeAt([20, 0, 20])], face: [side("x+")] },
      "The edge stands square on that face, so it gives no angle. Pick a face along the edge.",
    ],
    [
      { base: "curve", edge: [edgeAt([20, 0, 20])], along: 50 },
      "The edge is 40 mm long, and 50 mm along it is past its end. Give a smaller distance.",
    ],
    [
      { base: "square", face: [face("c:side", "c:cylinder")], through: [100, 0, 30] },
      "Several places of the face are as near to that point. Give a place on the face itself.",
    ],
    [{ base: "workplane" }, "Pick the workplane to start from."],
    [
      { base: "midway", faces: [side("x+"), face("c:side", "c:cylinder")] },
      "The picked face is not flat. Pick a flat one.",
    ],
  ] as [Step, string][])("%j", (values, message) => {
    const built = buildSteps(block, tube, { id: "w", type: "workplane", ...values });
    expect(built.step("w").error!.message).toBe(message);
  });
});
