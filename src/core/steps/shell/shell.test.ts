import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/node";
import { buildSteps, relative } from "../../testing/harness";
import { Draft } from "../../testing/sketches";

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
    const d = new Draft();
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
