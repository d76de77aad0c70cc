import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, buildSteps, jobOf, relative } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;

/** A bar along X from −60 to 60. */
const bar = { id: "a", type: "cylinder", diameter: 20, height: 120, at: [-60, 0, 0], axis: "x" };
const block = { id: "a", type: "box", size: [100, 60, 20] };
const AREA = Math.PI * 100;
const rows = (more: Step): Step => ({ id: "p", type: "pattern", what: "steps", steps: ["s"], ...more });
const mirror = (more: Step = {}): Step => ({
  id: "p",
  type: "mirror",
  what: "steps",
  steps: ["s"],
  about: "yz",
  ...more,
});

function result(...steps: Step[]) {
  const built = buildSteps(...steps);
  const { state, error, warnings } = built.step("p");
  const own = built.reports.filter(({ id }) => id.startsWith("p:"));
  return {
    built,
    state,
    error,
    warnings,
    own,
    volume: own.reduce((sum, { volume }) => sum + (volume ?? 0), 0),
    sizes: own.map(({ volume, area }) => volume ?? area).sort((x, y) => x - y),
  };
}

/** A curve drawn in the plane of X and Y: a knife square to it. */
const drawn = (id: string, draw: (draft: SketchMaker) => void): Step => {
  const draft = new SketchMaker();
  draw(draft);
  return { id, type: "sketch", entities: draft.entities };
};

describe("what divided a body, done again elsewhere", () => {
  // A plane through (50, 0, 0) whose normal leans up to Z: what is cut off a bar has the length of its axis.
  const leaning = { id: "w", type: "workplane", base: "normal", through: [50, 0, 0], normal: [1, 0, 0.4] };
  const cut = { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"], keepSide: { w: "back" } };

  test("a mitre, mirrored: both ends, leaning the other way", () => {
    const { state, own, volume } = result(bar, leaning, cut, mirror());
    expect(state).toBe("good");
    expect(own).toHaveLength(1);
    expect(own[0]).toMatchObject({ valid: true, name: "Cylinder" });
    expect(relative(volume, AREA * 100)).toBeLessThan(1e-9);
    // Along the top the bar is shorter at both ends, by what the plane leans over a radius of 10.
    const { min, max } = own[0]!.box!;
    expect(max[0]).toBeCloseTo(54, 6);
    expect(min[0]).toBeCloseTo(-54, 6);
  });

  test("the same in any plane, and with the other side kept", () => {
    const about = { about: "workplane", plane: ["m"] };
    const middle = { id: "m", type: "workplane", base: "yz", offset: 10 };
    const { state, error, volume } = result(bar, leaning, middle, cut, mirror(about));
    // The image of the plane goes through −30.
    expect([state, error?.message]).toEqual(["good", undefined]);
    expect(relative(volume, AREA * 80)).toBeLessThan(1e-9);
    const other = { ...cut, keepSide: { w: "front" } };
    expect(result(bar, leaning, other, mirror()).error!.code).toBe("cutter-misses");
  });

  test("a split in rows: slices", () => {
    const plane = { id: "w", type: "workplane", base: "yz", offset: -30 };
    const split = { id: "s", type: "seam", stock: ["a"], cutters: ["w"] };
    const { state, sizes } = result(block, plane, split, rows({ count: 4, spacing: 20 }));
    expect(state).toBe("good");
    const slices = [20, 20, 20, 20, 20].map((width) => width * 60 * 20);
    for (const [i, size] of sizes.entries()) expect(relative(size, slices[i]!)).toBeLessThan(1e-9);
    expect(sizes).toHaveLength(5);
  });

  test("a ball taken out, in a ring; along a path", () => {
    const ball = { id: "b", type: "sphere", diameter: 10, at: [20, 0, 20] };
    const cut = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };
    const halfBall = (2 / 3) * Math.PI * 125;
    for (const keepCutters of [true, false]) {
      const ring = result(block, ball, { ...cut, keepCutters }, rows({ kind: "ring", axis: "z", count: 6 }));
      expect(ring.state).toBe("good");
      expect(ring.own).toHaveLength(1);
      expect(relative(ring.volume, 120000 - 6 * halfBall)).toBeLessThan(1e-9);
    }
    const path = drawn("k", (d) => d.line("l", [-40, 0], [40, 0]));
    const along = result(
      block,
      { ...ball, at: [-40, 15, 20] },
      cut,
      path,
      rows({ kind: "path", path: ["k"], count: 5 }),
    );
    expect(relative(along.volume, 120000 - 5 * halfBall)).toBeLessThan(1e-9);
  });

  test("a drawn knife that bulges, mirrored and turned: it keeps the image of its side", () => {
    // An arc of radius 50 about (0, 0): from (40, -30) over (50, 0) to (40, 30), which are the long sides of the block.
    const arc = drawn("w", (d) => d.arc("b", [0, 0], [40, -30], [40, 30]));
    const segment = 2500 * Math.atan2(30, 40) - 40 * 30;
    const half = (40 * 60 + segment) * 20;
    for (const side of ["front", "back"]) {
      const split = { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"], keepSide: { w: side } };
      const once = buildSteps(block, arc, split).reports.at(-1)!.volume!;
      const keepsMiddle = relative(once, 60000 + half) < 1e-9;
      const image = result(block, arc, split, mirror());
      const turned = result(block, arc, split, rows({ kind: "ring", axis: "z", count: 2 }));
      if (keepsMiddle) {
        for (const { state, volume } of [image, turned]) {
          expect(state).toBe("good");
          expect(relative(volume, 2 * half)).toBeLessThan(1e-9);
        }
      } else for (const { error } of [image, turned]) expect(error!.code).toBe("cutter-misses");
    }
  });

  test("a wavy sheet and a face that runs on, mirrored", () => {
    const wave = drawn("k", (d) => {
      for (const [i, at] of [
        [30, -40],
        [36, -10],
        [28, 10],
        [34, 40],
      ].entries())
        d.point(`w${i}`, at[0]!, at[1]!);
      d.entities.push({
        id: "c",
        type: "spline",
        form: "through",
        points: ["w0", "w1", "w2", "w3"],
        closed: false,
        construction: false,
      });
    });
    const sheet = { id: "w", type: "extrude", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 100 };
    const cut = (side: string) => ({
      id: "s",
      type: "seam",
      preset: "trim",
      stock: ["a"],
      cutters: ["w"],
      keepSide: { w: side },
    });
    const whole = 120000;
    const parts = ["front", "back"].map(
      (side) => buildSteps(block, wave, sheet, cut(side)).reports.find(({ id }) => id.startsWith("s:"))!.volume!,
    );
    expect(relative(parts[0]! + parts[1]!, whole)).toBeLessThan(1e-6);
    const inner = parts[0]! > parts[1]! ? "front" : "back";
    const { state, volume } = result(block, wave, sheet, cut(inner), mirror());
    expect(state).toBe("good");
    expect(relative(volume, whole - 2 * Math.min(...parts))).toBeLessThan(1e-6);

    const rail = { id: "r", type: "box", size: [5, 5, 5], at: [40, 0, 40] };
    const byFace = {
      id: "s",
      type: "seam",
      preset: "trim",
      stock: ["a"],
      cutters: [],
      cutterFaces: [{ body: "r", face: "r:side:x-" }],
      runOn: true,
      keepSide: { "face:r:side:x-": "front" },
    };
    const flat = result(block, rail, byFace, mirror());
    expect(flat.state).toBe("good");
    expect(relative(flat.volume, 2 * 37.5 * 60 * 20)).toBeLessThan(1e-9);
  });

  test("a sheet is trimmed again, too", () => {
    const line = drawn("k", (d) => d.line("l", [-60, 0], [60, 0]));
    const flat = { id: "a", type: "extrude", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 30 };
    const hole = { id: "b", type: "cylinder", diameter: 8, height: 40, at: [-40, -20, 0], axis: "y" };
    const cut = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };
    const { state, own } = result(line, flat, hole, cut, rows({ count: 5, spacing: 20 }));
    expect(state).toBe("good");
    expect(own).toHaveLength(1);
    expect(relative(own[0]!.area, 120 * 30 - 5 * Math.PI * 16)).toBeLessThan(1e-9);
  });

  test("several steps at once; and what stands between", () => {
    const ball = { id: "b", type: "sphere", diameter: 10, at: [-40, 0, 20] };
    const pin = { id: "c", type: "cylinder", diameter: 6, height: 60, at: [-40, 20, -20] };
    const first = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };
    const second = { id: "t", type: "seam", preset: "subtract", stock: ["s"], cutters: ["c"] };
    const edge = {
      id: "f",
      type: "fillet",
      edges: [{ body: "t", print: { kind: "line", at: [50, 30, 10] } }],
      radius: 2,
    };
    const { state, error, volume } = result(
      block,
      ball,
      pin,
      first,
      second,
      edge,
      rows({ steps: ["s", "t"], count: 4, spacing: 20 }),
    );
    expect([state, error?.message]).toEqual(["good", undefined]);
    const gone = 4 * ((2 / 3) * Math.PI * 125 + Math.PI * 9 * 20) + (1 - Math.PI / 4) * 4 * 20;
    expect(relative(volume, 120000 - gone)).toBeLessThan(1e-9);
  });
});

describe("fates of pieces, done again", () => {
  // A rib across the block: what is before it, within it and behind it.
  const rib = { id: "b", type: "box", size: [6, 80, 40], at: [-33, -40, -10], anchor: "corner" };
  const planes = [-33, -27].map((offset, i) => ({ id: `w${i}`, type: "workplane", base: "yz", offset }));

  test("by a rule of sides: grooves between two planes", () => {
    const groove = {
      id: "s",
      type: "seam",
      preset: "split",
      stock: ["a"],
      cutters: ["w0", "w1"],
      rules: [{ where: { sides: { w0: "front", w1: "back" } }, fate: "scrap" }],
    };
    const { state, sizes } = result(block, ...planes, groove, rows({ count: 3, spacing: 30 }));
    expect(state).toBe("good");
    const widths = [17, 17, 24, 24].map((width) => width * 60 * 20);
    expect(sizes).toHaveLength(4);
    for (const [i, size] of sizes.entries()) expect(relative(size, widths[i]!)).toBeLessThan(1e-9);
  });

  test("by a decision on the one piece of its sides", () => {
    const split = { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w0", "w1"] };
    const job = jobOf([block, ...planes, split]);
    const { kind } = build(job, { pieces: "s" }).pieces!.find(
      ({ piece: { sides } }) => new Set(Object.values(sides)).size === 2,
    )!.piece;
    const scrapped = { ...split, fates: [{ piece: { kind }, fate: "scrap" }] };
    const { state, error, sizes } = result(block, ...planes, scrapped, rows({ count: 3, spacing: 30 }));
    expect([state, error?.message]).toEqual(["good", undefined]);
    expect(sizes).toHaveLength(4);
  });

  test("pieces of the same sides are told by where they lie, or asked", () => {
    // A bar taken out of a block across it: two ends alike, of which one was scrapped.
    const slot = { id: "b", type: "box", size: [10, 100, 60], at: [-35, 0, -20] };
    const ends = { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] };
    const first = buildSteps(block, slot, ends);
    expect(first.step("s").warnings.map(({ code }) => code)).toEqual(["falls-apart"]);
    const small = first.step("s").warnings[0]!.pieces!;
    expect(small).toHaveLength(2);
    const decided = first.step("s").warnings[0]!.others![0]!.set!.fates as { piece: { at: number[] }; fate: string }[];
    const fates = decided.map((rule) => (rule.piece.at[0]! < -40 ? { ...rule, fate: "scrap" } : rule));
    // The image lies as the first: the end scrapped there, the middle kept.
    const image = result(block, slot, { ...ends, fates }, mirror());
    expect([image.state, image.error?.message]).toEqual(["good", undefined]);
    expect(relative(image.volume, 60 * 60 * 20)).toBeLessThan(1e-9);
    // Further along, what lies before the cut is scrapped there, too.
    const far = result(block, slot, { ...ends, fates }, rows({ count: 2, spacing: 33 }));
    expect(relative(far.volume, 47 * 60 * 20)).toBeLessThan(1e-9);
    // So near that what is left between lies where neither of them lay.
    const near = result(block, slot, { ...ends, fates }, rows({ count: 2, spacing: 12 }));
    expect(near.error).toMatchObject({ code: "unclear-again", step: "p" });
    expect(near.error!.at![0]).toBeCloseTo(-29, 0);
  });

  test.each([
    ["a union", { preset: "union", stock: ["a", "b"] }, "makes a union of its bodies"],
    ["what is common", { preset: "intersect", stock: ["a", "b"] }, "makes an intersection of its bodies"],
    [
      "groups",
      { preset: "split", stock: ["a"], cutters: ["b"], rules: [{ where: {}, fate: "group", group: "g" }] },
      "gathers pieces into groups",
    ],
    [
      "sizes",
      { preset: "split", stock: ["a"], cutters: ["b"], rules: [{ where: { under: 5 }, fate: "scrap" }] },
      "goes by the size of pieces",
    ],
    [
      "stock that divides stock",
      { preset: "split", stock: ["a", "b"], mutual: true },
      "divides its stock by one another",
    ],
  ])("%s cannot be repeated as a step, and says so", (_name, values, words) => {
    const step = { id: "s", type: "seam", ...values };
    const { error } = result(block, rib, step, rows({ count: 2, spacing: 5 }));
    expect(error!.code).toBe("not-repeatable");
    const puts = values.preset === "union" || values.preset === "intersect";
    expect(error!.message).toContain(puts ? "Step 3" : words);
  });
});

test("copies that reach nothing are named by their place", () => {
  const plane = { id: "w", type: "workplane", name: "Cut", base: "yz", offset: 30 };
  const split = { id: "s", type: "seam", stock: ["a"], cutters: ["w"] };
  const { state, warnings } = result(block, plane, split, rows({ count: 3, spacing: 15 }));
  expect(state).toBe("warned");
  expect(warnings.map(({ message }) => message)).toEqual([
    "Copy 3 of Cut misses Block 2 by 10 mm: it divides nothing. Move one of them.",
  ]);
});

test("slivers that copies cut off are told, and merged where the step says so", () => {
  const plane = { id: "w", type: "workplane", base: "yz", offset: 9.998 };
  const split = { id: "s", type: "seam", stock: ["a"], cutters: ["w"] };
  const told = result(block, plane, split, rows({ count: 3, spacing: 20 }));
  expect(told.warnings.map(({ code }) => code)).toEqual(["sliver"]);
  expect(told.warnings[0]!.others).toMatchObject([{ step: "s", set: { mergeUnder: 0.01 } }]);
  expect(told.own).toHaveLength(4);
  const merged = result(block, plane, { ...split, mergeUnder: 0.01 }, rows({ count: 3, spacing: 20 }));
  expect([merged.state, merged.own.length]).toEqual(["good", 3]);
  expect(relative(merged.volume, 120000)).toBeLessThan(1e-12);
});

test("a sheet whose copy stops short is told, and may run on", () => {
  const line = drawn("k", (d) => d.line("l", [-40, -30], [-40, 30]));
  const sheet = { id: "w", type: "extrude", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 40 };
  const split = { id: "s", type: "seam", stock: ["a"], cutters: ["w"] };
  expect(buildSteps(block, line, sheet, split).step("s").state).toBe("good");
  const turned = result(
    block,
    line,
    sheet,
    split,
    rows({ kind: "ring", axis: "z", count: 2, angle: 30, about: [0, 0, 0] }),
  );
  expect(turned.error).toMatchObject({ code: "cutter-short", repair: { step: "s", set: { runSheets: true } } });
  const longer = result(
    block,
    line,
    sheet,
    { ...split, runSheets: true },
    rows({ kind: "ring", axis: "z", count: 2, angle: 30 }),
  );
  expect(longer.state).toBe("good");
  expect(relative(longer.volume, 120000)).toBeLessThan(1e-9);
});

test("it follows its step: a cutter moved, more places; bodies keep their ids", () => {
  const plane = (offset: number) => ({ id: "w", type: "workplane", base: "yz", offset });
  const cut = { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"], keepSide: { w: "back" } };
  const ring = (count: number) => rows({ kind: "ring", axis: "z", count });
  const cube = { id: "a", type: "box", size: [100, 100, 20] };
  const first = result(cube, plane(40), cut, ring(2));
  const moved = result(cube, plane(30), cut, ring(2));
  const more = result(cube, plane(40), cut, ring(4));
  expect([first, moved, more].map(({ own }) => own.map(({ id }) => id))).toEqual([
    [first.own[0]!.id],
    [first.own[0]!.id],
    [expect.stringMatching(/^p:/)],
  ]);
  expect(relative(first.volume, 80 * 100 * 20)).toBeLessThan(1e-9);
  expect(relative(moved.volume, 60 * 100 * 20)).toBeLessThan(1e-9);
  expect(relative(more.volume, 80 * 80 * 20)).toBeLessThan(1e-9);
  // What came of it is cut, named and looked at as one body, whatever its cutters are.
  expect(more.own[0]!.name).toBe("Block");
  // A step that is left out is waited for.
  expect(result(cube, plane(40), { ...cut, suppressed: true }, ring(2)).state).toBe("waiting");
});

test("in rows by chance: as steps one after the other do", () => {
  const random = new Random(20261130);
  for (let i = 0; i < 12; i++) {
    const count = random.whole(2, 4);
    const spacing = random.between(6, 14);
    const [offset, lean] = [random.between(-40, -10), random.between(-0.5, 0.5)];
    const preset = random.pick(["split", "trim", "subtract"] as const);
    const plane = (k: number) => ({
      id: `w${k}`,
      type: "workplane",
      base: "normal",
      through: [offset + k * spacing, 0, 0],
      normal: [1, lean, 0.2],
    });
    const ball = (k: number) => ({ id: `w${k}`, type: "sphere", diameter: 9, at: [offset + k * spacing, 3, 8] });
    const cutter = preset === "subtract" ? ball : plane;
    const step = (id: string, stock: string, k: number) => ({
      id,
      type: "seam",
      preset,
      stock: [stock],
      cutters: [`w${k}`],
      ...(preset === "trim" ? { keepSide: { [`w${k}`]: "front" } } : {}),
    });
    const again = result(
      block,
      cutter(0),
      { ...step("s", "a", 0), ...(preset === "trim" ? { keepSide: { w0: "front" } } : {}) },
      rows({ count, spacing }),
    );
    const one = buildSteps(
      block,
      ...Array.from({ length: count }, (_, k) => [cutter(k), step(`s${k}`, k === 0 ? "a" : `s${k - 1}`, k)]).flat(),
    );
    const last = one.step(`s${count - 1}`);
    expect(["good", "warned"], `${i} ${last.error?.message}`).toContain(last.state);
    expect(["good", "warned"], `${i} ${again.error?.message}`).toContain(again.state);
    const sizes = one.reports
      .filter(({ id }) => /^s\d/.test(id))
      .map(({ volume }) => volume!)
      .sort((x, y) => x - y);
    expect(again.sizes.length, `${i} ${preset}`).toBe(sizes.length);
    for (const [k, size] of again.sizes.entries()) expect(relative(size, sizes[k]!)).toBeLessThan(1e-9);
  }
});
