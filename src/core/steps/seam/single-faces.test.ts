import { beforeAll, describe, expect, test } from "vitest";
import { surfacesOf, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, buildSteps, jobOf } from "../../testing/harness";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

const block = { id: "b", type: "box", size: [60, 40, 30] };
const WHOLE = 60 * 40 * 30;
/** A bar beside the block, whose faces cut it: its side as a round hole all through, run on. */
const bar = { id: "c", type: "cylinder", diameter: 20, height: 6, at: [5, 0, 42] };
const chip = { id: "k", type: "box", size: [4, 4, 4], at: [40, 0, 10] };
const seam = (preset: string, faces: [string, string][], more: object = {}) => ({
  id: "s",
  type: "seam",
  preset,
  stock: ["b"],
  cutterFaces: faces.map(([body, face]) => ({ body, face })),
  runOn: true,
  ...more,
});
const result = (...steps: object[]) => buildSteps(...(steps as unknown as never[]));
const volumes = (...steps: object[]) =>
  result(...steps)
    .bodies.filter(({ id }) => id.startsWith("s:"))
    .map(({ shape }) => volumeOf(shape))
    .sort((one, other) => one - other);
const close = (found: number[], ...wanted: number[]) => {
  expect(found).toHaveLength(wanted.length);
  for (const [i, volume] of found.entries()) expect(volume / wanted[i]!).toBeCloseTo(1, 9);
};

const SIDE: [string, string] = ["c", "c:side"];
const TOP: [string, string] = ["k", "k:side:z+"];

describe("what lies behind a face, where the material of its body is", () => {
  const hole = Math.PI * 100 * 30;

  test("is subtracted: a bar's side bores a hole, a block's top takes off what is lower", () => {
    close(volumes(block, bar, seam("subtract", [SIDE])), WHOLE - hole);
    close(volumes(block, chip, seam("subtract", [TOP])), 60 * 40 * 16);
    close(volumes(block, bar, chip, seam("subtract", [SIDE, TOP])), (60 * 40 - Math.PI * 100) * 16);
  });

  test("is what an intersection leaves, of one body or of several", () => {
    close(volumes(block, bar, seam("intersect", [SIDE])), hole);
    close(volumes(block, bar, chip, seam("intersect", [SIDE, TOP])), Math.PI * 100 * 14);
    const other = { id: "o", type: "box", size: [60, 40, 10], at: [0, 0, 9] };
    close(volumes(block, other, chip, seam("intersect", [TOP], { stock: ["b", "o"] })), 60 * 40 * 5);
  });

  test("of a bore's wall is outside it: subtracting leaves a pin", () => {
    const plate = { id: "p", type: "box", size: [30, 30, 4], at: [0, 0, 40] };
    const drill = { id: "d", type: "cylinder", diameter: 16, height: 20, at: [0, 0, 30] };
    const bored = { id: "h", type: "seam", preset: "subtract", stock: ["p"], cutters: ["d"] };
    const [made] = result(block, plate, drill, bored).bodies.filter(({ id }) => id.startsWith("h:"));
    const wall = made!.faces[surfacesOf(made!.shape).findIndex(({ kind }) => kind === "cylinder")]!;
    close(volumes(block, plate, drill, bored, seam("subtract", [[made!.id, wall]])), Math.PI * 64 * 30);
  });

  test("with solids in one step: both are taken", () => {
    const pin = { id: "n", type: "cylinder", diameter: 6, height: 30, at: [-20, 0, 0] };
    const step = seam("subtract", [TOP], { cutters: ["n"] });
    close(volumes(block, chip, pin, step), (60 * 40 - Math.PI * 9) * 16);
  });

  test.each(["subtract", "intersect"])("a sheet has none: %s says so, and where", (preset) => {
    const sheet = { id: "t", type: "offset-sheet", distance: 0, faces: [{ body: "k", face: "k:side:z+" }] };
    const made = result(block, chip, sheet).bodies.find(({ id }) => id.startsWith("t:"))!;
    const { error } = result(block, chip, sheet, seam(preset, [[made.id, made.faces[0]!]])).step("s");
    expect(error).toMatchObject({ code: "needs-solids", field: "cutterFaces" });
  });

  test("a face that ends in the stock is told as short, and run on at one press", () => {
    const low = { id: "k", type: "box", size: [4, 4, 4], at: [0, 0, 10] };
    const { error } = result(block, low, seam("subtract", [TOP], { runOn: false })).step("s");
    expect(error).toMatchObject({ code: "cutter-short", repair: { step: "s", set: { runOn: true } } });
  });

  test("nothing of what is shared lies behind: told", () => {
    const above = { id: "o", type: "box", size: [60, 40, 10], at: [0, 0, 20] };
    const step = seam("intersect", [TOP], { stock: ["b", "o"] });
    expect(result(block, above, chip, step).step("s").error).toMatchObject({ code: "nothing-common" });
  });

  test("a union has no use for it: what was picked waits", () => {
    const other = { id: "o", type: "box", size: [60, 40, 30], at: [0, 0, 30] };
    const faces = seam("union", [TOP], { stock: ["b", "o"] });
    close(volumes(block, other, chip, faces), 2 * WHOLE);
  });

  test("mirrored as a step: the copy of the face takes what lies behind it there", () => {
    const steps = [block, { ...bar, at: [15, 0, 42] }, seam("subtract", [SIDE])];
    const mirror = { id: "m", type: "mirror", what: "steps", steps: ["s"], about: "yz" };
    const built = result(...steps, mirror);
    expect(built.step("m").error?.message).toBeUndefined();
    const made = built.bodies.filter(({ id }) => !/^[bc]:/.test(id));
    close(
      made.map(({ shape }) => volumeOf(shape)),
      WHOLE - 2 * hole,
    );
  });
});

test("by chance: what is subtracted and what is left by an intersection are the whole, and each where it belongs", () => {
  const random = new Random(2211);
  const some = (low: number, high: number) => Math.round(random.between(low, high) * 100) / 100;
  for (let i = 0; i < 12; i++) {
    const at = [some(-15, 15), some(-8, 8), some(5, 20)];
    const [body, face] = random.pick([
      [{ id: "c", type: "cylinder", diameter: some(6, 24), height: 4, at }, "c:side"],
      [{ id: "c", type: "sphere", diameter: some(8, 24), at }, "c:skin"],
      [{ id: "c", type: "cone", diameter: some(12, 30), top: some(0, 8), height: some(8, 20), at }, "c:side"],
      [{ id: "c", type: "box", size: [6, 6, 6], at }, `c:side:${random.pick(["x+", "x-", "y+", "z-", "z+"])}`],
    ] as const);
    const turn = { id: "m", type: "move", bodies: ["c"], turn: some(0, 40), axis: random.pick(["x", "y"]) };
    const of = (preset: string) => build(jobOf([block, body, turn, seam(preset, [["c", face]])] as never));
    const [less, common] = [of("subtract"), of("intersect")];
    const sum = (built: typeof less) =>
      built.bodies.filter(({ id }) => id.startsWith("s:")).reduce((total, { shape }) => total + volumeOf(shape), 0);
    const failed = [less, common].map((built) => built.step("s").error?.code);
    // A cone run on has a second half beyond its tip; where a face's surface leaves the stock whole, both say so.
    if (failed.some(Boolean)) {
      expect(failed.every((code) => code !== undefined)).toBe(true);
      continue;
    }
    expect(sum(less) + sum(common)).toBeCloseTo(WHOLE, 4);
    // A ball's whole skin has the ball behind it.
    if (face !== "c:skin") continue;
    const { cutterFaces, ...solid } = seam("subtract", [], { cutters: ["c"] });
    expect(sum(build(jobOf([block, body, turn, solid] as never)))).toBeCloseTo(sum(less), 4);
  }
});
