import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../../items";
import { repaired } from "../../job";
import { surfacesOf, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, buildSteps, jobOf } from "../../testing/harness";

beforeAll(loadNodeKernel);

const block = { id: "b", type: "box", size: [60, 40, 30] };
const WHOLE = 60 * 40 * 30;
const cut = (faces: [body: string, face: string][], more: object = {}) => ({
  id: "s",
  type: "seam",
  preset: "split",
  stock: ["b"],
  cutterFaces: faces.map(([body, face]) => ({ body, face })),
  runOn: true,
  ...more,
});
/** The volumes of what comes of the block, smallest first. */
const volumes = (...steps: object[]) =>
  buildSteps(block, ...(steps as unknown as never[]))
    .bodies.filter(({ id }) => id.startsWith("s:"))
    .map(({ shape }) => volumeOf(shape))
    .sort((a, b) => a - b);
/** The name of the one face of a body that lies on a surface of a kind. */
const faceOn = ({ shape, faces }: Body, kind: string) =>
  faces[surfacesOf(shape).findIndex((one) => one.kind === kind)]!;
const halves = (part: number) => [part, WHOLE - part].sort((a, b) => a - b);
const close = (found: number[], wanted: number[]) => {
  expect(found).toHaveLength(wanted.length);
  for (const [i, volume] of found.entries()) expect(volume / wanted[i]!).toBeCloseTo(1, 9);
};

// Volumes of bar, ball, cone and ring: formulas of any handbook.
describe("a face of a body cuts as its whole surface", () => {
  test("a flat one as its plane, however small it is", () => {
    const chip = { id: "c", type: "box", size: [4, 4, 4], at: [10, 0, 10] };
    close(volumes(chip, cut([["c:block", "c:side:x+"]])), halves(18 * 40 * 30));
  });

  test("a round one all round and along its axis, from a quarter of a short bar", () => {
    const bar = { id: "c", type: "cylinder", diameter: 20, height: 6, at: [5, 0, 12] };
    const quarter = { id: "q", type: "box", size: [10, 10, 6], at: [10, 5, 12] };
    const piece = { id: "i", type: "seam", preset: "intersect", stock: ["c", "q"] };
    const built = buildSteps(block, bar, quarter, piece);
    const [made] = built.bodies.filter(({ id }) => id.startsWith("i:"));
    const side = faceOn(made!, "cylinder");
    close(volumes(bar, quarter, piece, cut([[made!.id, side]])), halves(Math.PI * 100 * 30));
  });

  test("a bore's, too: its front is inside, where its face looks", () => {
    const plate = { id: "p", type: "box", size: [30, 30, 4], at: [0, 0, 40] };
    const drill = { id: "d", type: "cylinder", diameter: 16, height: 20, at: [0, 0, 30] };
    const bored = { id: "h", type: "seam", preset: "subtract", stock: ["p"], cutters: ["d"] };
    const [made] = buildSteps(block, plate, drill, bored).bodies.filter(({ id }) => id.startsWith("h:"));
    const wall = faceOn(made!, "cylinder");
    const trim = (side: string) =>
      volumes(plate, drill, bored, cut([[made!.id, wall]], { preset: "trim", keepSide: { [`face:${wall}`]: side } }));
    close(trim("front"), [Math.PI * 64 * 30]);
    close(trim("back"), [WHOLE - Math.PI * 64 * 30]);
  });

  test("a cone from its tip on, on its own side of it", () => {
    // From 4 to 2 wide over 10: the tip lies at 20, and at the floor it is 4 wide again.
    const cone = { id: "c", type: "cone", diameter: 8, top: 4, height: 10, at: [0, 0, 0] };
    close(volumes(cone, cut([["c:cone", "c:side"]])), halves((Math.PI * 16 * 20) / 3));
  });

  test("a cap of a ball as the whole ball; a piece of a ring as the whole ring", () => {
    const ball = { id: "c", type: "sphere", diameter: 24, at: [0, 0, 15] };
    const plane = { id: "w", type: "workplane", base: "xy", offset: 25 };
    const cap = { id: "k", type: "seam", preset: "trim", stock: ["c"], cutters: ["w"], keepSide: { w: "front" } };
    const [made] = buildSteps(block, ball, plane, cap).bodies.filter(({ id }) => id.startsWith("k:"));
    const skin = faceOn(made!, "sphere");
    close(volumes(ball, plane, cap, cut([[made!.id, skin]])), halves((4 / 3) * Math.PI * 12 ** 3));
    const ring = { id: "c", type: "torus", diameter: 24, section: 6, at: [0, 0, 15] };
    const half = { id: "w", type: "workplane", base: "yz", offset: 0 };
    const arc = { id: "k", type: "seam", preset: "trim", stock: ["c"], cutters: ["w"], keepSide: { w: "front" } };
    const [bow] = buildSteps(block, ring, half, arc).bodies.filter(({ id }) => id.startsWith("k:"));
    const bend = faceOn(bow!, "torus");
    close(volumes(ring, half, arc, cut([[bow!.id, bend]])), halves(2 * Math.PI ** 2 * 12 * 9));
  });

  test("several at once, each by its own surface", () => {
    const chip = { id: "c", type: "box", size: [4, 4, 4], at: [10, 6, 10] };
    const found = volumes(
      chip,
      cut([
        ["c:block", "c:side:x+"],
        ["c:block", "c:side:y+"],
        ["c:block", "c:side:z+"],
      ]),
    );
    expect(found).toHaveLength(8);
    expect(found.reduce((sum, volume) => sum + volume, 0) / WHOLE).toBeCloseTo(1, 12);
  });
});

describe("a side means the same run on or not", () => {
  // Bodies that reach by themselves, so that both can be had; a mirrored one has surfaces whose own axes are left-handed.
  const TOOLS: [kind: string, tool: object][] = [
    ["plane", { id: "c", type: "box", size: [7, 90, 90], at: [11, 0, -20] }],
    ["cylinder", { id: "c", type: "cylinder", diameter: 20, height: 90, at: [6, 3, -20] }],
    ["cone", { id: "c", type: "cone", diameter: 40, top: 10, height: 60, at: [6, 3, -20] }],
    ["sphere", { id: "c", type: "sphere", diameter: 24, at: [6, 3, 15] }],
    ["torus", { id: "c", type: "torus", diameter: 20, section: 6, at: [6, 3, 15] }],
  ];
  const CHANGES: [how: string, of: string, steps: object[]][] = [
    ["as made", "c:", []],
    ["turned and moved", "c:", [{ id: "m", type: "move", bodies: ["c"], by: [2, 1, 0], turn: 180 }]],
    [
      "mirrored",
      "m:",
      [
        { id: "w", type: "workplane", base: "yz", offset: 1 },
        { id: "m", type: "mirror", bodies: ["c"], about: "workplane", plane: ["w"], keep: false },
      ],
    ],
  ];
  const cases = TOOLS.flatMap(([kind, tool]) =>
    CHANGES.map(([how, of, steps]) => [kind, how, of, [tool, ...steps]] as const),
  );

  test.each(cases)("%s, %s", (kind, _how, of, steps) => {
    const bodies = buildSteps(block, ...(steps as unknown as never[])).bodies;
    const made = bodies.find(({ id }) => id.startsWith(of)) ?? bodies.at(-1)!;
    let tried = 0;
    for (const face of made.faces.filter((_, i) => surfacesOf(made.shape)[i]!.kind === kind)) {
      const side = (keep: string, runOn: boolean) => {
        const step = cut([[made.id, face]], { preset: "trim", runOn, keepSide: { [`face:${face}`]: keep } });
        const built = build(jobOf([block, ...steps, step] as never));
        if (built.step("s").state !== "good") return null;
        return built.bodies.filter(({ id }) => id.startsWith("s:")).map(({ shape }) => volumeOf(shape));
      };
      for (const keep of ["front", "back"]) {
        const plain = side(keep, false);
        if (!plain) continue;
        tried++;
        close(side(keep, true)!, plain);
      }
    }
    expect(tried).toBeGreaterThan(0);
  });
});

describe("the places where it only just does", () => {
  const kept = (...steps: object[]) => build(jobOf([block, ...steps] as never)).step("s");

  test("a blind hole's own wall divides off what lies under it", () => {
    const drill = { id: "d", type: "cylinder", diameter: 16, height: 20, at: [0, 0, 15] };
    const hole = { id: "h", type: "seam", preset: "subtract", stock: ["b"], cutters: ["d"] };
    const [made] = buildSteps(block, drill, hole).bodies.filter(({ id }) => id.startsWith("h:"));
    const plug = Math.PI * 64 * 15;
    close(volumes(drill, hole, { ...cut([[made!.id, faceOn(made!, "cylinder")]]), stock: ["h"] }), [
      plug,
      WHOLE - 2 * plug,
    ]);
  });

  test("tangent to a side from within it divides, from without it only touches; a tip on the top is a tip", () => {
    const bar = (x: number) => ({ id: "c", type: "cylinder", diameter: 20, height: 5, at: [x, 0, 10] });
    close(volumes(bar(20), cut([["c:cylinder", "c:side"]])), halves(Math.PI * 100 * 30));
    expect(kept(bar(40), cut([["c:cylinder", "c:side"]])).error!.message).toBe(
      "A cutting face only touches the skin of Block, so it divides nothing. Move it into Block.",
    );
    const cone = { id: "c", type: "cone", diameter: 40, top: 20, height: 15 };
    close(volumes(cone, cut([["c:cone", "c:side"]])), halves((Math.PI * 400 * 30) / 3));
  });

  test("far off on its axis a bar reaches; a ball that is away misses, and by how much is said", () => {
    const bar = { id: "c", type: "cylinder", diameter: 20, height: 5, at: [5000, 0, 15], axis: "x" };
    close(volumes(bar, cut([["c:cylinder", "c:side"]])), halves(Math.PI * 100 * 60));
    const ball = { id: "c", type: "sphere", diameter: 30, at: [0, 0, 65] };
    expect(kept(ball, cut([["c:sphere", "c:skin"]])).error!.message).toBe(
      "A cutting face misses Block by 20 mm: it divides nothing. Move one of them.",
    );
  });
});

describe("where a face falls short", () => {
  const chip = { id: "c", type: "box", size: [4, 4, 4], at: [10, 0, 10] };

  test("it is said, and one press runs it on", () => {
    const job = jobOf([block, chip, cut([["c:block", "c:side:x+"]], { runOn: false })]);
    const { error } = build(job).step("s");
    expect(error!.repair).toEqual({
      label: "Run the cutting faces on along their surfaces",
      step: "s",
      set: { runOn: true },
    });
    const [part] = job.parts;
    const steps = part!.steps.map((step) =>
      step.id === "s" ? { ...step, ...repaired(step, error!.repair!.set) } : step,
    );
    expect(build({ ...job, parts: [{ ...part!, steps }] }).step("s").state).toBe("good");
  });

  test("faces and sheets together: one press for all", () => {
    const pad = { id: "d", type: "box", size: [30, 20, 20] };
    const lid = { id: "v", type: "offset-sheet", faces: [{ body: "d:block", face: "d:side:z+" }] };
    const job = jobOf([block, chip, pad, lid, cut([["c:block", "c:side:x+"]], { runOn: false, cutters: ["v"] })]);
    const { error } = build(job).step("s");
    expect(error!.repair).toMatchObject({ step: "v", with: [{ step: "s", set: { runOn: true } }] });
  });

  test("a cutter's side stays when it is run on", () => {
    const trim = (runOn: boolean) =>
      volumes(
        { ...chip, size: [4, 60, 60], at: [10, 0, -10] },
        cut([["c:block", "c:side:x+"]], { preset: "trim", runOn, keepSide: { "face:c:side:x+": "back" } }),
      );
    close(trim(false), [42 * 40 * 30]);
    close(trim(true), [42 * 40 * 30]);
  });
});
