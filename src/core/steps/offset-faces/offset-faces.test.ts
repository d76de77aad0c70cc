import { beforeAll, describe, expect, test } from "vitest";
import type { Repair } from "../../errors";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block = { id: "a", type: "box", size: [60, 40, 20] };
const refs = (...names: string[]) => names.map((name) => ({ body: "a", face: `a:${name}` }));
const offset = (more: Step): Step => ({ id: "o", type: "offset-faces", ...more });
const volumeOf = (...steps: Step[]) => buildSteps(...steps).reports.find(({ id }) => id.startsWith("a:"))!.volume!;

/** The steps with what a repair sets. */
const mend = (steps: Step[], { step, set }: Repair): Step[] =>
  steps.map((one) => (one.id === step ? { ...one, ...set } : one));

test("a set of faces for each distance: floor 0, walls 0.25, a moving side 1", () => {
  const step = offset({
    faces: refs("side:x-", "side:y-", "side:y+"),
    distance: 0.25,
    sets: "three",
    faces2: refs("side:z-"),
    distance2: 0,
    faces3: refs("side:x+"),
    distance3: 1,
  });
  expect(volumeOf(block, step)).toBeCloseTo(61.25 * 40.5 * 20, 6);
});

test("the body keeps its id, and its faces their names: what was picked of it is found again", () => {
  const built = buildSteps(
    block,
    offset({ faces: refs("side:z+"), distance: 5 }),
    { id: "f", type: "fillet", edges: [{ body: "a", edge: "a:side:x+|a:side:z+" }], radius: 3 },
    { id: "p", type: "workplane", base: "face", face: refs("side:z+") },
  );
  expect(built.steps.map(({ state }) => state)).toEqual(["good", "good", "good", "good"]);
  expect(built.bodies.map(({ id }) => id)).toEqual(["a:block"]);
  const plane = built.bench.find(({ item }) => item.kind === "workplane")!.item;
  expect((plane as unknown as { origin: number[] }).origin[2]).toBeCloseTo(25, 9);
});

describe("what cannot be is told, with what would do", () => {
  const round = { id: "f", type: "fillet", edges: [{ body: "a", edge: "a:side:x+|a:side:z+" }], radius: 5 };

  test("a rounding that stays: moved with it at one press", () => {
    const steps = [block, round, offset({ faces: refs("side:z+"), distance: 2 })];
    const { error } = buildSteps(...steps).step("o");
    expect(error).toMatchObject({ code: "offset-open", faces: [{ face: "a:side:z+" }] });
    const mended = buildSteps(...mend(steps, error!.repair!));
    expect(mended.step("o").state).toBe("good");
    // Top, rounding and the side that it runs on to: all three go out by 2.
    expect(mended.reports[0]!.volume).toBeCloseTo((62 * 22 - (1 - Math.PI / 4) * 49) * 40, 6);
  });

  test("a radius that is used up: as far as it goes at one press", () => {
    const bar = { id: "a", type: "cylinder", diameter: 20, height: 30 };
    const steps = [bar, offset({ faces: refs("side"), distance: -12 })];
    const { error } = buildSteps(...steps).step("o");
    expect(error!.code).toBe("offset-ends");
    const mended = buildSteps(...mend(steps, error!.repair!));
    expect(mended.step("o").error).toBeUndefined();
    const { distance } = error!.repair!.set as { distance: number };
    expect(distance).toBeGreaterThan(-10);
    expect(distance).toBeLessThan(-9);
  });

  test("a face that is swallowed", () => {
    const boss = { id: "b", type: "cylinder", diameter: 16, height: 3, at: [0, 0, 20] };
    const both = { id: "u", type: "seam", preset: "union", stock: ["a", "b"] };
    const built = buildSteps(block, boss, both, {
      ...offset({ distance: -3 }),
      faces: [{ body: "u", face: "b:cap:end" }],
    });
    const { state, warnings } = built.step("o");
    expect(state).toBe("warned");
    expect(warnings.map(({ code }) => code)).toEqual(["faces-gone"]);
    expect(built.reports.find(({ id }) => id.startsWith("u:"))!.volume).toBeCloseTo(60 * 40 * 20, 6);
  });

  test.each([
    ["nothing-picked", block, {}],
    ["no-distance", block, { faces: refs("side:z+"), distance: 0 }],
    ["picked-twice", block, { faces: refs("side:z+"), sets: "two", faces2: refs("side:z+"), distance2: 3 }],
    ["offset-nothing", block, { faces: refs("side:z+"), distance: -25 }],
  ])("%s", (code, body, values) => {
    expect(buildSteps(body, offset(values)).step("o").error!.code).toBe(code);
  });

  test("of several bodies, and of a sheet", () => {
    const other = { ...block, id: "b", at: [100, 0, 0] };
    const two = offset({ faces: [...refs("side:z+"), { body: "b", face: "b:side:z+" }] });
    expect(buildSteps(block, other, two).step("o").error!.code).toBe("several-bodies");
    const sheet = { id: "t", type: "offset-sheet", distance: 3, faces: refs("side:z+") };
    const made = buildSteps(block, sheet).bodies.find(({ id }) => id.startsWith("t:"))!;
    const of = offset({ faces: [{ body: made.id, face: made.faces[0] }] });
    expect(buildSteps(block, sheet, of).step("o").error!.code).toBe("needs-solids");
  });
});

test("faces by a rule: all of a pocket, wherever it was picked; a face picked for another distance keeps that", () => {
  const pocket = [
    { id: "p", type: "box", size: [20, 10, 20], at: [0, 0, 12] },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["p"] },
  ];
  const own = (name: string, more = {}) => ({ body: "s", face: `p:${name}`, ...more });
  const volume = (more: Step) => {
    const built = buildSteps(block, ...pocket, offset(more));
    expect(built.step("o").error?.message).toBeUndefined();
    return built.reports.find(({ id }) => id.startsWith("s:"))!.volume!;
  };
  for (const from of ["side:z-", "side:x+"])
    expect(volume({ faces: [own(from, { with: "pocket" })], distance: -0.5 })).toBeCloseTo(48000 - 21 * 11 * 8.5, 6);
  const floor = { sets: "two", faces2: [own("side:z-")], distance2: -2 };
  expect(volume({ faces: [own("side:x+", { with: "pocket" })], distance: -0.5, ...floor })).toBeCloseTo(
    48000 - 21 * 11 * 10,
    6,
  );
});
