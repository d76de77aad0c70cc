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

const at = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const drawn = (entities: object[], more: object = {}) => ({ id: "k", type: "sketch", entities, ...more });
const knife = (more: object = {}) => ({
  id: "s",
  type: "seam",
  preset: "split",
  stock: ["b"],
  cutters: ["k"],
  runOn: true,
  ...more,
});

// Areas by the shoelace formula and of circular segments, times the height of 30.
describe("open ends of a drawing run on straight", () => {
  test("a line as a longer line, under its own name; in any sense, in any plane", () => {
    for (const [from, to] of [
      ["p", "q"],
      ["q", "p"],
    ]) {
      const line = drawn([at("p", -5, -2), at("q", 5, 2), { id: "l", type: "line", from, to }]);
      const result = buildSteps(block as never, line as never, knife() as never);
      expect(result.step("s").error).toBeUndefined();
      const pieces = result.bodies.filter(({ id }) => id.startsWith("s:"));
      close(
        pieces.map(({ shape }) => volumeOf(shape)),
        [WHOLE / 2, WHOLE / 2],
      );
      // The cut is one face, called as the line's.
      for (const { faces } of pieces) expect(faces.filter((name) => name.startsWith("k:"))).toEqual(["k:side:l"]);
    }
    const upright = drawn([at("p", 3, 10), at("q", 4, 10), { id: "l", type: "line", from: "p", to: "q" }], {
      on: "zx",
    });
    close(
      volumes(upright, knife()),
      halves(60 * 40 * 10).sort((a, b) => a - b),
    );
  });

  test("a chain at both of its ends, and the corner within stays", () => {
    // An L within the block: to the left along Y 5, and down along X 8.
    const chain = drawn([
      at("a", -4, 5),
      at("c", 8, 5),
      at("e", 8, 1),
      { id: "l", type: "line", from: "a", to: "c" },
      { id: "m", type: "line", from: "e", to: "c" },
    ]);
    close(volumes(chain, knife()), halves((8 + 30) * (5 + 20) * 30));
  });

  test("an arc and a spline by a line in the direction in which they end", () => {
    // A half circle over the middle that opens downwards: its ends run on straight down.
    const arch = drawn([
      at("o", 0, 0),
      at("p", 10, 0),
      at("q", -10, 0),
      { id: "c", type: "arc", centre: "o", from: "p", to: "q" },
    ]);
    close(volumes(arch, knife()), halves((20 * 20 + (Math.PI * 100) / 2) * 30));
    const wave = drawn([
      at("p", -10, 0),
      at("m", 0, 3),
      at("q", 10, 0),
      { id: "w", type: "spline", points: ["p", "m", "q"], form: "through", closed: false },
    ]);
    const [less, more] = volumes(wave, knife());
    expect((less! + more!) / WHOLE).toBeCloseTo(1, 9);
    expect(less! / WHOLE).toBeGreaterThan(0.2);
  });

  test("ends that cross one another divide there, too", () => {
    // 300 of 360 degrees: the ends' tangents cross outside of the circle, at r / cos 30° from its middle.
    const most = drawn([
      at("o", 0, 0),
      at("p", 9 * Math.cos(Math.PI / 6), 9 * Math.sin(Math.PI / 6)),
      at("q", 9 * Math.cos(Math.PI / 6), -9 * Math.sin(Math.PI / 6)),
      { id: "c", type: "arc", centre: "o", from: "p", to: "q" },
    ]);
    const pieces = volumes(most, knife());
    expect(pieces).toHaveLength(3);
    expect(pieces.reduce((sum, volume) => sum + volume, 0) / WHOLE).toBeCloseTo(1, 9);
    // The loop: five sixths of the disc, and two right triangles with legs r and r tan 30°.
    const loop = ((5 / 6) * Math.PI * 81 + 81 * Math.tan(Math.PI / 6)) * 30;
    expect(pieces.some((volume) => Math.abs(volume / loop - 1) < 1e-9)).toBe(true);
  });

  test("what is closed, ends at another line or is past the stock already divides as without it", () => {
    const ring = drawn([at("o", 0, 0), { id: "c", type: "circle", centre: "o", radius: 9 }]);
    close(volumes(ring, knife()), halves(Math.PI * 81 * 30));
    const tee = drawn([
      at("p", -40, 4),
      at("q", 40, 4),
      at("t", 6, 4),
      at("u", 6, -30),
      { id: "l", type: "line", from: "p", to: "q" },
      { id: "m", type: "line", from: "t", to: "u" },
    ]);
    const wanted = [60 * 16 * 30, 36 * 24 * 30, 24 * 24 * 30].sort((a, b) => a - b);
    close(volumes(tee, knife()), wanted);
    close(volumes(tee, knife({ runOn: false })), wanted);
  });

  test("where it stops short, one press mends it; a face and a drawing are mended together", () => {
    const short = drawn([at("p", 10, -5), at("q", 10, 5), { id: "l", type: "line", from: "p", to: "q" }]);
    const job = jobOf([block, short, knife({ runOn: false })]);
    const { error } = build(job).step("s");
    expect(error!.message).toContain("stops short inside Block. It has to reach 15 mm further.");
    expect(error!.repair).toEqual({
      label: "Run the open ends of the drawing straight on",
      step: "s",
      set: { runOn: true },
    });
    const mended = jobOf([
      block,
      short,
      { ...knife({ runOn: false }), ...repaired(knife() as never, error!.repair!.set) },
    ]);
    expect(build(mended).step("s").state).toBe("good");
    const chip = { id: "c", type: "box", size: [4, 4, 4], at: [-10, 0, 10] };
    const both = build(
      jobOf([block, short, chip, knife({ runOn: false, cutterFaces: [{ body: "c:block", face: "c:side:x+" }] })]),
    ).step("s");
    expect(both.error!.repair!.label).toBe("Run the cutters on: faces along their surfaces, drawn lines straight");
  });

  test("a trim keeps the side that it kept, run on or not", () => {
    for (const side of ["front", "back"])
      for (const turned of [false, true]) {
        const line = (reach: number) =>
          drawn([
            at("p", 10, turned ? reach : -reach),
            at("q", 10, turned ? -reach : reach),
            { id: "l", type: "line", from: "p", to: "q" },
          ]);
        const trim = (runOn: boolean) => knife({ preset: "trim", keepSide: { k: side }, runOn });
        close(volumes(line(5), trim(true)), volumes(line(50), trim(false)));
      }
  });
});
