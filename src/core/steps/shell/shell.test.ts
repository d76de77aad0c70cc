import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { SketchMaker } from "../../testing/sketches";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const block: Step = { id: "a", type: "box", size: [40, 30, 20], anchor: "corner" };
const top = { body: "a:block", face: "a:side:z+" };
const shelled = (body: Step, more: Step) => buildSteps(body, { id: "s", type: "shell", body: ["a"], ...more });
const volume = (built: ReturnType<typeof buildSteps>) => {
  expect(built.step("s").error ?? null).toBeNull();
  expect(built.reports[0]).toMatchObject({ valid: true, closed: true });
  return built.reports[0]!.volume!;
};

describe("by closed form", () => {
  test.each([
    ["open at the top", { open: [top], thickness: 2 }, 40 * 30 * 20 - 36 * 26 * 18],
    ["open at the top, walls outside", { open: [top], thickness: 2, outward: true }, 44 * 34 * 22 - 40 * 30 * 20],
    [
      "open at two sides",
      { open: [top, { body: "a:block", face: "a:side:z-" }], thickness: 3 },
      40 * 30 * 20 - 34 * 24 * 20,
    ],
    ["a closed void", { thickness: 2 }, 40 * 30 * 20 - 36 * 26 * 16],
    ["a closed void, walls outside", { thickness: 2, outward: true }, 44 * 34 * 24 - 40 * 30 * 20],
  ] as [string, Step, number][])("a block, %s", (_name, more, expected) => {
    expect(relative(volume(shelled(block, more)), expected)).toBeLessThan(1e-9);
  });

  test("a ball with a void", () => {
    const built = shelled({ id: "a", type: "sphere", diameter: 60 }, { thickness: 4 });
    expect(relative(volume(built), (4 / 3) * Math.PI * (30 ** 3 - 26 ** 3))).toBeLessThan(1e-7);
  });

  test("a cylinder open at one end", () => {
    const built = shelled(
      { id: "a", type: "cylinder", diameter: 40, height: 50 },
      { thickness: 3, open: [{ body: "a:cylinder", print: { kind: "plane", centre: [0, 0, 50] } }] },
    );
    expect(relative(volume(built), Math.PI * (400 * 50 - 289 * 47))).toBeLessThan(1e-7);
  });

  test("a cone closed all round: the hollow is a cone of the same slope", () => {
    const d = new SketchMaker();
    d.line("x", [0, 0], [20, 0]);
    d.line("y", "x_b", [0, 40]);
    d.line("z", "y_b", "x_a");
    const built = buildSteps(
      { id: "k", type: "sketch", entities: d.entities },
      { id: "a", type: "revolve", sketch: ["k"] },
      { id: "s", type: "shell", body: ["a"], thickness: 2 },
    );
    // The apex moves down by t / sin of the half angle, the base up by t.
    const height = 40 - 2 - 2 / (20 / Math.hypot(20, 40));
    const radius = (height * 20) / 40;
    expect(relative(volume(built), (Math.PI / 3) * (400 * 40 - radius ** 2 * height))).toBeLessThan(1e-6);
  });

  test("old faces keep their names; walls and rims are named by what they stand for", () => {
    const { faces } = shelled(block, { open: [top], thickness: 2 }).bodies[0]!;
    expect(faces.filter((name) => name.startsWith("a:side:"))).toHaveLength(5);
    expect(faces.filter((name) => name.startsWith("s:wall:a:side:"))).toHaveLength(5);
    expect(faces).toContain("s:rim:a:side:z+");
  });
});

describe("what cannot be", () => {
  test("walls that meet in the middle: where, and up to what; the repair fits", () => {
    const built = shelled(block, { open: [top], thickness: 16 });
    const { error } = built.step("s");
    expect(error?.message).toMatch(
      /^Block cannot be hollowed to walls of 16 mm\. At 2 faces less than 32 mm lies behind the skin\. Up to 1[45]\.\d* ?mm fits\.$/,
    );
    expect(error?.at).toBeDefined();
    expect(shelled(block, { open: [top], thickness: 16, ...error!.repair!.set }).step("s").state).toBe("good");
    // The block as it was is still there.
    expect(built.reports[0]!.volume).toBeCloseTo(24000, 6);
  });

  test("walls thicker than a radius", () => {
    const built = shelled({ id: "a", type: "cylinder", diameter: 20, height: 60 }, { thickness: 12 });
    expect(built.step("s").error?.message).toMatch(/^Cylinder cannot be hollowed to walls of 12 mm/);
  });

  test("nothing picked; all open; a face of another body", () => {
    expect(buildSteps(block, { id: "s", type: "shell" }).step("s").error?.message).toBe("Pick the solid to hollow.");
    const all = ["x-", "x+", "y-", "y+", "z-", "z+"].map((side) => ({ body: "a:block", face: `a:side:${side}` }));
    expect(shelled(block, { open: all }).step("s").error?.message).toContain("Every face is left open");
    const built = buildSteps(
      block,
      { id: "b", type: "box", size: [5, 5, 5], at: [100, 0, 0] },
      { id: "s", type: "shell", body: ["a"], open: [{ body: "b:block", face: "b:side:z+" }] },
    );
    expect(built.step("s").error?.message).toContain("is not of Block");
  });
});

describe("walls of several thicknesses", () => {
  const face = (side: string) => ({ body: "a:block", face: `a:side:${side}` });

  test.each([
    [
      "a thicker floor",
      { open: [top], thickness: 2, walls: "two", faces2: [face("z-")], thickness2: 5 },
      24000 - 36 * 26 * 15,
    ],
    [
      "a thinner floor",
      { open: [top], thickness: 4, walls: "two", faces2: [face("z-")], thickness2: 1 },
      24000 - 32 * 22 * 19,
    ],
    [
      "three of them, closed all round",
      {
        thickness: 2,
        walls: "three",
        faces2: [face("x+"), face("x-")],
        thickness2: 3,
        faces3: [face("z+")],
        thickness3: "1/4 in",
      },
      24000 - 34 * 26 * (20 - 2 - 6.35),
    ],
    [
      "outside, a thicker floor",
      { open: [top], thickness: 2, outward: true, walls: "two", faces2: [face("z-")], thickness2: 5 },
      44 * 34 * 25 - 24000,
    ],
  ] as [string, Step, number][])("a block, %s", (_name, more, expected) => {
    const built = shelled(block, more);
    expect(relative(volume(built), expected)).toBeLessThan(1e-9);
    expect(built.bodies[0]!.faces).toContain("s:wall:a:side:z-");
    expect(new Set(built.bodies[0]!.faces).size).toBe(built.bodies[0]!.faces.length);
  });

  test("a cylinder with a thicker side", () => {
    const built = shelled(
      { id: "a", type: "cylinder", diameter: 40, height: 50 },
      {
        thickness: 3,
        open: [{ body: "a:cylinder", face: "a:cap:end" }],
        walls: "two",
        faces2: [{ body: "a:cylinder", face: "a:side" }],
        thickness2: 6,
      },
    );
    expect(relative(volume(built), Math.PI * (400 * 50 - 14 * 14 * 47))).toBeLessThan(1e-7);
  });

  test("its names stay when a thickness changes", () => {
    const names = (thickness2: number) =>
      shelled(block, {
        open: [top],
        thickness: 2,
        walls: "two",
        faces2: [face("z-")],
        thickness2,
      }).bodies[0]!.faces.toSorted();
    expect(names(5)).toEqual(names(3));
  });

  test("a wall that leaves no hollow", () => {
    const { error } = shelled(block, {
      open: [top],
      thickness: 2,
      walls: "two",
      faces2: [face("z-")],
      thickness2: 40,
    }).step("s");
    expect(error!.message).toBe("A wall that thick leaves no hollow, or cuts it in two. Make it thinner.");
  });
});

describe("hollowed on one side of a plane", () => {
  test.each([
    ["front", 40 * 30 * 20 - (28 - 2) * 26 * 18],
    ["back", 40 * 30 * 20 - 10 * 26 * 18],
  ])("the %s: the rest stays solid", (part, expected) => {
    const built = buildSteps(
      block,
      { id: "w", type: "workplane", base: "yz", offset: 12 },
      {
        id: "s",
        type: "shell",
        body: ["a"],
        open: [top],
        thickness: 2,
        part,
        about: "workplane",
        plane: ["w"],
      },
    );
    expect(relative(volume(built), expected)).toBeLessThan(1e-9);
    expect(built.bodies[0]!.faces).toContain("s:limit");
  });

  test("where nothing lies on that side", () => {
    const { error } = buildSteps(block, {
      id: "s",
      type: "shell",
      body: ["a"],
      thickness: 2,
      part: "back",
      about: "xy",
    }).step("s");
    expect(error!.message).toMatch(/^On that side of the plane there is nothing to hollow/);
  });
});

describe("the body made smaller as the hollow", () => {
  test("a block: it says how much smaller; its walls are as thick as said where they are thinnest", () => {
    const built = shelled(block, { thickness: 2, how: "smaller" });
    // About its middle, the thinnest walls are across the smallest size: 20 (1 − f) / 2 = 2.
    expect(relative(volume(built), 24000 * (1 - 0.8 ** 3))).toBeLessThan(1e-6);
    expect(built.step("s").warnings[0]!.message).toContain("× 0.8000: its walls are 2 mm where they are thinnest");
  });

  test("open at one flat face it begins in that face's plane", () => {
    const built = shelled(block, { thickness: 2, how: "smaller", open: [top] });
    // The floor: 20 (1 − f) = 2; the sides: 30 (1 − f) / 2 = 2: the latter asks for more.
    expect(relative(volume(built), 24000 * (1 - (13 / 15) ** 3))).toBeLessThan(1e-6);
    expect(built.reports[0]).toMatchObject({ genus: 0 });
  });

  test("it is offered where even walls do not fit, and then does; the tight faces are told", () => {
    // A mouth whose edges are rounded: walls that are thinner than the radius end tangent to it; a smaller body has none of that.
    const edges = ["x+", "x-", "y+", "y-"].map((side) => ({ body: "a", edge: `a:side:${side}|a:side:z+` }));
    const round = { id: "f", type: "fillet", edges, radius: 4 };
    const shell = { id: "s", type: "shell", body: ["a"], thickness: 2, open: [top] };
    const { error } = buildSteps(block, round, shell).step("s");
    const offer = [error!.repair, ...(error!.others ?? [])].find((one) => one?.set.how === "smaller");
    expect(offer).toMatchObject({ label: "Hollow by the body made smaller" });
    expect(buildSteps(block, round, { ...shell, ...offer!.set }).step("s").state).toBe("warned");
    const tight = shelled(block, { thickness: 12 }).step("s").error!;
    expect(tight.faces!.length).toBeGreaterThan(0);
    // It would not fit either, so it is not offered.
    expect(tight.others).toBeUndefined();
  });

  test.each([
    ["too thick", { thickness: 30 }, "Block is too thin for walls of 30 mm. Make them thinner."],
    [
      "two open faces",
      { thickness: 2, open: [top, { body: "a:block", face: "a:side:x+" }] },
      "A hollow that is the body made smaller takes one flat open face, or none.",
    ],
  ])("%s: refused", (_name, more, message) => {
    expect(shelled(block, { how: "smaller", ...more }).step("s").error!.message).toBe(message);
  });
});
