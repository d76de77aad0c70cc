import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" };
const at = (x: number, y: number, z: number, body = "a:block") => ({ body, print: { at: [x, y, z] } });
/** Middles of the twelve edges of the block. */
const EDGES = [0, 1].flatMap((i) =>
  [0, 1].flatMap((j) => [at(20, 30 * i, 20 * j), at(40 * i, 15, 20 * j), at(40 * i, 30 * j, 10)]),
);
const only = (built: ReturnType<typeof buildSteps>) => built.reports[0]!;
const whole = 40 * 30 * 20;

describe("fillet, by closed form", () => {
  test("one edge of a block loses (1 − π/4) r² per length", () => {
    const built = buildSteps(block, { id: "f", type: "fillet", edges: [at(20, 0, 20)], radius: 5 });
    expect(relative(only(built).volume!, whole - (1 - Math.PI / 4) * 25 * 40)).toBeLessThan(1e-9);
    expect(only(built)).toMatchObject({ id: "a:block", valid: true, closed: true, genus: 0 });
  });

  test("all twelve: the block of a rounded box, by Steiner's formula", () => {
    const r = 4;
    const [a, b, c] = [40 - 2 * r, 30 - 2 * r, 20 - 2 * r];
    const volume =
      a * b * c + 2 * r * (a * b + b * c + c * a) + Math.PI * r * r * (a + b + c) + (4 / 3) * Math.PI * r ** 3;
    const built = buildSteps(block, { id: "f", type: "fillet", edges: EDGES, radius: r });
    expect(built.step("f").error ?? null).toBeNull();
    expect(relative(only(built).volume!, volume)).toBeLessThan(1e-9);
    expect(only(built).faces).toBe(26);
  });

  test("the rim of a cylinder, by Pappus", () => {
    const built = buildSteps(
      { id: "c", type: "cylinder", diameter: 20, height: 30 },
      {
        id: "f",
        type: "fillet",
        edges: [{ body: "c:cylinder", print: { kind: "circle", at: [-10, 0, 30] } }],
        radius: 3,
      },
    );
    expect(built.step("f").error ?? null).toBeNull();
    // A square less a quarter circle, turned about the axis: the centre of area by subtraction.
    const [square, quarter] = [9, (Math.PI * 9) / 4];
    const reach = 10 - 3;
    const centre = (square * (reach + 1.5) - quarter * (reach + (4 * 3) / (3 * Math.PI))) / (square - quarter);
    const lost = 2 * Math.PI * centre * (square - quarter);
    expect(relative(only(built).volume!, Math.PI * 100 * 30 - lost)).toBeLessThan(1e-8);
  });

  test("faces keep their names, and the new one is named by the edge; what runs smoothly on is rounded, too", () => {
    const built = buildSteps(
      block,
      { id: "f", type: "fillet", edges: [at(40, 0, 10)], radius: 6 },
      { id: "g", type: "fillet", edges: [at(20, 0, 20)], radius: 2 },
    );
    expect(built.bodies[0]!.faces).toEqual(expect.arrayContaining(["a:side:x-", "a:side:z+"]));
    expect(built.bodies[0]!.faces.filter((name) => name.startsWith("f:round:"))).toHaveLength(1);
    // One edge was picked: the two straight ones and the bow between them are worked.
    expect(built.bodies[0]!.faces.filter((name) => name.startsWith("g:round:"))).toHaveLength(3);
    expect(only(built).valid).toBe(true);
  });
});

describe("chamfer, by closed form", () => {
  test("evenly and by two distances: half of d₁ d₂ per length", () => {
    const even = buildSteps(block, { id: "f", type: "chamfer", edges: [at(20, 0, 20)], distance: 4 });
    expect(relative(only(even).volume!, whole - 8 * 40)).toBeLessThan(1e-12);
    const two = { id: "f", type: "chamfer", edges: [at(20, 0, 20)], kind: "two", distance: 4, second: 7 };
    const [a, b] = [false, true].map((flip) => buildSteps(block, { ...two, flip }));
    for (const built of [a!, b!]) expect(relative(only(built).volume!, whole - 14 * 40)).toBeLessThan(1e-12);
    expect(a!.bodies[0]!.faces.filter((name) => name.startsWith("f:bevel:"))).toHaveLength(1);
  });

  test("three edges at a corner", () => {
    const edges = [at(20, 0, 20), at(40, 15, 20), at(40, 0, 10)];
    const built = buildSteps(block, { id: "f", type: "chamfer", edges, distance: 3 });
    // Three prisms, less what two share (d³/3 each), with what all three share (d³/4), and with the tip where the cuts
    // would meet in a point (d³/12): a flat triangle stands there.
    const lost = (9 / 2) * (40 + 30 + 20) - 27 + 27 / 4 + 27 / 12;
    expect(built.step("f").error ?? null).toBeNull();
    expect(relative(only(built).volume!, whole - lost)).toBeLessThan(1e-9);
    expect(only(built).valid).toBe(true);
  });
});

describe("what does not fit", () => {
  test("a radius that is too large says where, and what would fit; the repair does", () => {
    const built = buildSteps(block, { id: "f", type: "fillet", edges: [at(20, 0, 20)], radius: 25 });
    const { error } = built.step("f");
    expect(error?.message).toMatch(
      /^The radius of 25 mm is too large at the edge of Block that is 40 mm long\. Up to 19\.\d+ mm fits\.$/,
    );
    expect(error?.at).toEqual([20, 0, 20]);
    // The block as it was is still there.
    expect(only(built).volume).toBeCloseTo(whole, 6);
    const { set } = error!.repair!;
    expect(
      buildSteps(block, { id: "f", type: "fillet", edges: [at(20, 0, 20)], radius: 25, ...set }).step("f").state,
    ).toBe("good");
  });

  test.each(["fillet", "chamfer"])("%s without edges, or of an edge that is gone", (type) => {
    expect(buildSteps(block, { id: "f", type }).step("f").error?.message).toBe("Pick the edges.");
    const gone = buildSteps(block, { id: "f", type, edges: [{ body: "a:block", edge: "none" }] });
    expect(gone.step("f").error?.message).toContain("Pick the edge again");
  });

  test("a chamfer wider than its face", () => {
    const built = buildSteps(block, { id: "f", type: "chamfer", edges: [at(20, 0, 20)], distance: 21 });
    expect(built.step("f").error?.message).toMatch(/^The chamfer of 21 mm is too large .* Up to 19\.\d+ mm fits\.$/);
  });
});

describe("several radii at once", () => {
  const edge = (a: string, b: string) => ({ body: "b:block", edge: `b:side:${a}|b:side:${b}` });
  const block = { id: "b", type: "box", size: [40, 30, 20] };

  test("edges apart: each loses its own (1 − π/4) r² times its length", () => {
    const built = buildSteps(block, {
      id: "f",
      type: "fillet",
      edges: [edge("x+", "y+")],
      radius: 6,
      radii: "three",
      edges2: [edge("x-", "y+")],
      radius2: 3,
      edges3: [edge("x-", "y-")],
      radius3: "1/8 in",
    });
    const lost = (1 - Math.PI / 4) * 20 * (36 + 9 + 3.175 ** 2);
    expect(built.reports[0]!.volume! / (24000 - lost)).toBeCloseTo(1, 9);
  });

  test("edges that meet in a corner are rounded with their own radii in one go", () => {
    const built = buildSteps(block, {
      id: "f",
      type: "fillet",
      edges: [edge("x+", "z+")],
      radius: 5,
      radii: "two",
      edges2: [edge("x+", "y+"), edge("y+", "z+")],
      radius2: 2,
    });
    expect(built.step("f").state).toBe("good");
    expect(built.reports[0]).toMatchObject({ valid: true, closed: true, genus: 0 });
  });

  test("the one that is too large is blamed, and its own field mended", () => {
    const step = {
      id: "f",
      type: "fillet",
      edges: [edge("x+", "y+")],
      radius: 2,
      radii: "two",
      edges2: [edge("x-", "y-")],
      radius2: 60,
    };
    const { error } = buildSteps(block, step).step("f");
    expect(error).toMatchObject({ field: "radius2", repair: { set: { radius2: expect.any(Number) } } });
    expect(buildSteps(block, { ...step, ...error!.repair!.set }).step("f").state).toBe("good");
  });
});

test("the line at which a round face closes on itself is no edge: picked alone it is told, with others nothing is done there", () => {
  const cylinder = { id: "c", type: "cylinder", diameter: 20, height: 30 };
  const line = { body: "c", print: { kind: "line" } };
  const rim = { body: "c", print: { at: [-10, 0, 30] } };
  const alone = buildSteps(cylinder, { id: "f", type: "fillet", edges: [line], radius: 1 });
  expect(alone.step("f").error).toMatchObject({ code: "no-edge", at: expect.any(Array) });
  expect(alone.step("f").error!.message).toContain("closes on itself");
  const both = buildSteps(cylinder, { id: "f", type: "fillet", edges: [line, rim], radius: 1 });
  const one = buildSteps(cylinder, { id: "f", type: "fillet", edges: [rim], radius: 1 });
  expect(both.step("f")).toMatchObject({ state: "good", warnings: [] });
  expect(both.reports[0]!.volume).toBeCloseTo(one.reports[0]!.volume!, 9);
});
