import { beforeAll, describe, expect, test } from "vitest";
import { nearest } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, volumeOfStep } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block = { id: "b", type: "box", size: [80, 60, 40], anchor: "centre" };
const WHOLE = 80 * 60 * 40;
const seam = (more: Step): Step => ({
  id: "s",
  type: "seam",
  preset: "subtract",
  stock: ["b"],
  cutters: ["c"],
  ...more,
});
const face = (name: string) => ({ body: "c", face: `c:${name}` });
const cut = (tool: Step, more: Step) => {
  const built = buildSteps(block, { id: "c", ...tool }, seam(more));
  expect(built.step("s").error?.message).toBeUndefined();
  const [tool_, made] = ["c:", "s:"].map((id) => built.bodies.find((body) => body.id.startsWith(id))!);
  const told = built.step("s").told?.find(({ code }) => code === "least-gap");
  return { built, told, volume: volumeOfStep(built, "s"), gap: nearest(tool_!.shape, made!.shape)!.gap };
};

// Ten thousandths of an inch between printed parts is common practice, no source.
const TEN_THOU = 0.254;

describe("the least distance between the cutter and what is left is the gap, and it is told as measured", () => {
  const r = TEN_THOU;
  test.each<[string, Step, number]>([
    ["a block", { type: "box", size: [20, 16, 12], anchor: "centre" }, (20 + 2 * r) * (16 + 2 * r) * (12 + 2 * r)],
    ["a bar", { type: "cylinder", diameter: 18, height: 22, at: [0, 0, -11] }, Math.PI * (9 + r) ** 2 * (22 + 2 * r)],
    ["a ball", { type: "sphere", diameter: 24 }, (4 / 3) * Math.PI * (12 + r) ** 3],
    ["a ring", { type: "torus", diameter: 30, section: 9 }, 2 * Math.PI ** 2 * 15 * (4.5 + r) ** 2],
  ])("%s, all within", (_, tool, hollow) => {
    const { gap, told, volume } = cut(tool, { gap: TEN_THOU });
    expect(gap).toBeCloseTo(TEN_THOU, 6);
    expect(volume / (WHOLE - hollow)).toBeCloseTo(1, 9);
    expect(told!.message).toBe("Cylinder keeps off Block by 0.254 mm at least.".replace("Cylinder", nameOf(tool)));
  });

  test("a cone: its side moves square to itself", () => {
    const { gap, volume } = cut({ type: "cone", diameter: 30, top: 10, height: 20, at: [0, 0, -10] }, { gap: 0.5 });
    expect(gap).toBeCloseTo(0.5, 6);
    // Half its angle at the tip has the tangent 1/2. Half a millimetre further down and up along that slope, and out by gap/cos.
    const at = (z: number) => 15 - (z + 10) / 2 + 0.5 * Math.hypot(1, 0.5);
    const [low, high] = [at(-10.5), at(10.5)];
    const hollow = ((Math.PI * 21) / 3) * (low * low + low * high + high * high);
    expect(volume / (WHOLE - hollow)).toBeCloseTo(1, 9);
  });

  test("a tool that comes out of the stock: a bore all through", () => {
    const { gap, volume } = cut({ type: "cylinder", diameter: 18, height: 90, at: [0, 0, -45] }, { gap: "10 thou" });
    expect(gap).toBeCloseTo(TEN_THOU, 6);
    expect(volume / (WHOLE - Math.PI * (9 + TEN_THOU) ** 2 * 40)).toBeCloseTo(1, 9);
  });
});

function nameOf({ type }: Step): string {
  return { box: "Block 2", cylinder: "Cylinder", sphere: "Sphere", torus: "Torus" }[type as string]!;
}

test("one for each set of faces: floor 0, walls 0.25, a moving side 1; what the tool is stays as it is", () => {
  const tool = { type: "box", size: [20, 16, 30] };
  const { built, volume, told } = cut(tool, {
    gap: 0.25,
    gaps: "three",
    gapFaces2: [face("side:z-")],
    gap2: 0,
    gapFaces3: [face("side:x+")],
    gap3: 1,
  });
  expect(volume).toBeCloseTo(WHOLE - 21.25 * 16.5 * 20, 6);
  expect(told!.message).toBe("Block 2 touches Block, or presses into it.");
  expect(built.reports.find(({ id }) => id === "c:block")!.volume).toBeCloseTo(20 * 16 * 30, 6);
});

test("below 0 it presses into what is left", () => {
  const { volume } = cut({ type: "cylinder", diameter: 18, height: 90, at: [0, 0, -45] }, { gap: -0.015 });
  expect(volume / (WHOLE - Math.PI * 8.985 ** 2 * 40)).toBeCloseTo(1, 9);
});

test("pressing leaves the mouth of a pocket open, and a slot open at its ends", () => {
  const pocket = cut({ type: "box", size: [20, 16, 8], at: [0, 0, 12] }, { gap: -0.015 });
  expect(pocket.volume).toBeCloseTo(WHOLE - 19.97 * 15.97 * 7.985, 6);
  const slot = cut({ type: "box", size: [20, 60, 8], at: [0, 0, 12] }, { gap: -0.015 });
  expect(slot.volume).toBeCloseTo(WHOLE - 19.97 * 60 * 7.985, 6);
  // A face that only lies in the plane of another one elsewhere is no mouth.
  const inside = cut({ type: "box", size: [20, 16, 8], at: [0, 0, -4] }, { gap: -0.5 });
  expect(inside.volume).toBeCloseTo(WHOLE - 19 * 15 * 7, 6);
});

test("a gap that closes a slot of the tool: told, with its place; what was a slot is cut, too", () => {
  const steps = [
    block,
    { id: "t", type: "box", size: [30, 20, 20], at: [0, 0, 10] },
    { id: "g", type: "box", size: [0.4, 20, 10], at: [0, 0, 20] },
    { id: "c", type: "seam", preset: "subtract", stock: ["t"], cutters: ["g"], keepCutters: false },
  ];
  const built = buildSteps(...steps, seam({ gap: 0.3 }));
  const { error, warnings } = built.step("s");
  expect(error?.message).toBeUndefined();
  expect(warnings.map(({ code }) => code)).toContain("gap-closes");
  // Over the block's top, at 20, nothing is cut.
  expect(volumeOfStep(built, "s")).toBeCloseTo(WHOLE - 30.6 * 20.6 * 10.3, 6);
});

test("faces that meet at an acute angle: they meet further off, and the gap is what was asked for", () => {
  const { gap, built } = cut({ type: "wedge", length: 30, width: 16, height: 10 }, { gap: 0.25 });
  expect(gap).toBeCloseTo(0.25, 6);
  expect(built.step("s").warnings).toEqual([]);
});

test("bodies that were united, with flat faces in one plane that become one: none of them is said to be gone", () => {
  const built = buildSteps(
    block,
    { id: "c1", type: "box", size: [20, 20, 10] },
    { id: "c2", type: "box", size: [8, 8, 16] },
    { id: "c3", type: "box", size: [4, 30, 6] },
    { id: "c", type: "seam", preset: "union", stock: ["c1", "c2", "c3"] },
    seam({ gap: 0.25 }),
  );
  expect(built.step("s").warnings).toEqual([]);
  const hollow = 20.5 * 20.5 * 10.5 + 8.5 * 8.5 * 6 + 2 * 5 * 4.5 * 6.5;
  expect(volumeOfStep(built, "s")).toBeCloseTo(WHOLE - hollow, 6);
});

test("what cannot be is refused with the place", () => {
  const bar = { id: "c", type: "cylinder", diameter: 18, height: 90, at: [0, 0, -45] };
  const error = (more: Step) => buildSteps(block, bar, seam(more)).step("s").error!;
  expect(error({ gap: -9 })).toMatchObject({ code: "gap-ends", field: "gap", faces: [{ face: "c:side" }] });
  const of = { gaps: "two", gapFaces2: [{ body: "b", face: "b:side:z+" }], gap2: 1 };
  expect(error(of)).toMatchObject({ code: "gap-elsewhere", field: "gapFaces2" });
});

test("other presets keep none, whatever was set before", () => {
  const bar = { id: "c", type: "cylinder", diameter: 18, height: 90, at: [0, 0, -45] };
  const built = buildSteps(block, bar, seam({ preset: "split", gap: 2 }));
  const volumes = built.reports.filter(({ id }) => id.startsWith("s:")).map(({ volume }) => volume!);
  expect(Math.min(...volumes)).toBeCloseTo(Math.PI * 81 * 40, 6);
  expect(built.step("s").told).toBeUndefined();
});

test("mirrored as a step, the copy keeps the same gap", () => {
  const bar = { id: "c", type: "cylinder", diameter: 12, height: 90, at: [20, 0, -45] };
  const mirror = { id: "m", type: "mirror", what: "steps", steps: ["s"], about: "yz" };
  const built = buildSteps(block, bar, seam({ gap: 0.5 }), mirror);
  expect(built.step("m").error?.message).toBeUndefined();
  const made = built.reports.find(({ id }) => !/^[bc]:/.test(id))!;
  expect(made.volume! / (WHOLE - 2 * Math.PI * 6.5 ** 2 * 40)).toBeCloseTo(1, 9);
});

describe("faces by a rule, which brings them along after each edit", () => {
  const tool = { type: "box", size: [20, 16, 30] };
  const ruled = (name: string, rule: string) => ({ ...face(name), with: rule });

  test("all of a boss keep one gap, a side by itself another: what is picked singly comes first", () => {
    const of = { gap: 0, gaps: "three", gapFaces2: [ruled("side:x+", "boss")], gap2: 0.25 };
    expect(cut(tool, of).volume).toBeCloseTo(WHOLE - 20.5 * 16.5 * 20.25, 6);
    const { volume } = cut(tool, { ...of, gapFaces3: [face("side:x+")], gap3: 1 });
    expect(volume).toBeCloseTo(WHOLE - 21.25 * 16.5 * 20.25, 6);
  });

  test("two rules that bring a face along for different gaps are told, with the face", () => {
    const { error } = buildSteps(
      block,
      { id: "c", ...tool },
      seam({
        gaps: "three",
        gapFaces2: [ruled("side:x+", "boss")],
        gap2: 0.25,
        gapFaces3: [ruled("side:y+", "facing")],
        gap3: 1,
      }),
    ).step("s");
    expect(error).toMatchObject({
      code: "picked-twice",
      field: "gapFaces3",
      faces: [{ body: "c:block", face: "c:side:y+" }],
    });
  });

  test("a rule that says nothing of the face is told, with the field", () => {
    const { error } = buildSteps(
      block,
      { id: "c", ...tool },
      seam({ gaps: "two", gapFaces2: [ruled("side:x+", "radius")], gap2: 1 }),
    ).step("s");
    expect(error).toMatchObject({ code: "rule-unfit", field: "gapFaces2" });
  });

  test("a rule where single faces are asked for is refused", () => {
    const { error } = buildSteps(block, {
      id: "w",
      type: "workplane",
      base: "face",
      face: [{ body: "b", face: "b:side:z+", with: "facing" }],
    }).step("w");
    expect(error).toMatchObject({ code: "one-by-one", field: "face" });
  });

  test("a pin more of the same radius keeps the gap of its like without being picked", () => {
    const pins = (count: number) => [
      { id: "c0", type: "box", size: [60, 20, 4], at: [0, 0, -4] },
      ...[0, 1, 2].map((i) => ({ id: `p${i}`, type: "cylinder", diameter: 8, height: 30, at: [i * 20 - 20, 0, 0] })),
      { id: "c", type: "seam", preset: "union", stock: ["c0", "p0", "p1", "p2"].slice(0, count + 1) },
    ];
    const of = { gaps: "two", gapFaces2: [{ body: "c", face: "p0:side", with: "radius" }], gap2: 0.5 };
    for (const count of [2, 3]) {
      const built = buildSteps(block, ...pins(count), seam(of));
      expect(built.step("s").error?.message).toBeUndefined();
      expect(volumeOfStep(built, "s")).toBeCloseTo(WHOLE - 60 * 20 * 4 - count * Math.PI * 4.5 ** 2 * 20, 6);
    }
  });
});

describe("a fit by ISO 286: drawn at the middle of the limits, which are told", () => {
  // Limits as handbooks print them (ISO 286-2, from memory): 25 H7 = +21/0 µm, g6 = −7/−20, s6 = +48/+35, G7 = +28/+7, h6 = 0/−13, k6 = +15/+2.
  const bar = { type: "cylinder", diameter: 25, height: 90, at: [0, 0, -45] };
  test.each([
    ["H7/g6", 25.0105, "25 to 25.021", "24.98 to 24.993", "0.007 to 0.041 mm of play"],
    ["G7/h6", 25.0175, "25.007 to 25.028", "24.987 to 25", "0.007 to 0.041 mm of play"],
    ["H7/s6", 25.0105, "25 to 25.021", "25.035 to 25.048", "pressed in by 0.014 to 0.048 mm"],
    ["H7/k6", 25.0105, "25 to 25.021", "25.002 to 25.015", "from 0.015 mm of press to 0.019 mm of play"],
  ])("a bar's hole, %s", (fit, size, own, mate, between) => {
    const { volume, built } = cut(bar, { gapFit: fit });
    expect(volume / (WHOLE - (Math.PI / 4) * size ** 2 * 40)).toBeCloseTo(1, 9);
    const told = built.step("s").told!.find(({ code }) => code === "fit")!.message;
    for (const words of [own, mate, between]) expect(told).toContain(words);
  });

  test("what is left standing in a bore of the tool is a shaft: 25 g6 in the middle is 24.9865", () => {
    const steps = [
      block,
      { id: "r", type: "cylinder", diameter: 40, height: 60, at: [0, 0, 10] },
      { id: "h", type: "cylinder", diameter: 25, height: 60, at: [0, 0, 10] },
      { id: "c", type: "seam", preset: "subtract", stock: ["r"], cutters: ["h"], keepCutters: false },
    ];
    const bore = { body: "c", face: "h:side" };
    const built = buildSteps(...steps, seam({ gaps: "two", gapFaces2: [bore], gapFit2: "H7/g6" }));
    expect(built.step("s").error?.message).toBeUndefined();
    const ring = (Math.PI / 4) * (1600 - 24.9865 ** 2) * 10;
    expect(volumeOfStep(built, "s") / (WHOLE - ring)).toBeCloseTo(1, 9);
    expect(
      built
        .step("s")
        .told!.map(({ message }) => message)
        .join(),
    ).toContain("shaft is drawn at 24.9865 mm");
  });

  test("each size has its own limits; what is flat keeps the number", () => {
    const steps = [
      { id: "c1", type: "cylinder", diameter: 10, height: 50, at: [-20, 0, 0] },
      { id: "c2", type: "cylinder", diameter: 30, height: 50, at: [20, 0, 0] },
      { id: "c3", type: "box", size: [70, 8, 10], at: [0, 0, 40] },
      { id: "c", type: "seam", preset: "union", stock: ["c1", "c2", "c3"] },
    ];
    const built = buildSteps(block, ...steps, seam({ gapFit: "H7/h6", gap: 0.5 }));
    expect(built.step("s").error?.message).toBeUndefined();
    // 10 H7 = +15, 30 H7 = +21; the floors half a millimetre deeper.
    const hole = (d: number) => (Math.PI / 4) * d ** 2 * 20.5;
    expect(volumeOfStep(built, "s") / (WHOLE - hole(10.0075) - hole(30.0105))).toBeCloseTo(1, 9);
    expect(built.step("s").told!.filter(({ code }) => code === "fit")).toHaveLength(2);
  });

  test("what is no fit, and sizes that no table has, are refused with the field; a fit that nothing keeps is told", () => {
    const error = (tool: Step, fit: string) =>
      buildSteps({ ...block, size: [900, 900, 40] }, { id: "c", ...tool }, seam({ gapFit: fit })).step("s");
    expect(error(bar, "H7").error).toMatchObject({ code: "fit-class", field: "gapFit", step: "s" });
    expect(error(bar, "g6/H7").error).toMatchObject({ code: "fit-class" });
    expect(error({ ...bar, diameter: 600 }, "H7/g6").error).toMatchObject({ code: "fit-size", field: "gapFit" });
    const { warnings } = error({ type: "box", size: [20, 16, 30] }, "H7/g6");
    expect(warnings).toContainEqual(expect.objectContaining({ code: "fit-unused", field: "gapFit" }));
  });
});

describe("faces that touch another body", () => {
  // A tool that stands on a shelf and leans against a wall; the shelf is wider than it, the wall is not.
  const tool = { id: "c", type: "box", size: [20, 16, 30] };
  const shelf = { id: "f", type: "box", size: [40, 40, 5], at: [0, 0, -5] };
  const wall = { id: "w", type: "box", size: [5, 10, 40], at: [12.5, 0, 0] };
  const volume = (more: Step) => {
    const built = buildSteps(block, tool, shelf, wall, seam(more));
    expect(built.step("s").error?.message).toBeUndefined();
    return volumeOfStep(built, "s");
  };

  test("keep a gap of their own, without being picked", () => {
    expect(volume({ gap: 0.25, gaps: "two", gapTouch2: ["f"], gap2: 1 })).toBeCloseTo(WHOLE - 20.5 * 16.5 * 21, 6);
    const both = { gap: 0.25, gaps: "three", gapTouch2: ["f"], gap2: 0, gapTouch3: ["w"], gap3: 1 };
    expect(volume(both)).toBeCloseTo(WHOLE - 21.25 * 16.5 * 20, 6);
  });

  test("one that is picked itself keeps what it is picked for", () => {
    const of = { gap: 0, gaps: "three", gapTouch2: ["f"], gap2: 1, gapFaces3: [face("side:z-")], gap3: 2 };
    expect(volume(of)).toBeCloseTo(WHOLE - 20 * 16 * 22, 6);
  });

  test("what it touches along an edge only is not touched; a face that touches bodies of two sets is told", () => {
    const beside = { id: "e", type: "box", size: [10, 10, 10], at: [15, 0, -10] };
    const edge = buildSteps(block, tool, beside, seam({ gaps: "two", gapTouch2: ["e"], gap2: 1 }));
    expect(volumeOfStep(edge, "s")).toBeCloseTo(WHOLE - 20 * 16 * 20, 6);
    const more = { id: "e", type: "box", size: [4, 4, 5], at: [0, 0, -5] };
    const twice = buildSteps(
      block,
      tool,
      shelf,
      more,
      seam({ gaps: "three", gapTouch2: ["f"], gapTouch3: ["e"], gap3: 1 }),
    );
    expect(twice.step("s").error).toMatchObject({ code: "touches-twice", field: "gapTouch3" });
    const picked = { gaps: "three", gapTouch2: ["f"], gapTouch3: ["e"], gap3: 1, gapFaces3: [face("side:z-")] };
    expect(buildSteps(block, tool, shelf, more, seam(picked)).step("s").error).toBeUndefined();
  });
});
