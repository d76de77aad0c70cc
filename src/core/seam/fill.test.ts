import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const fill = (stock: string[], cutters: string[] = [], more: Step = {}) => ({
  id: "f",
  type: "seam",
  preset: "fill",
  stock,
  cutters,
  ...more,
});
const plane = (id: string, base: string, offset: number) => ({ id, type: "workplane", base, offset });

/** What a fill made: the volume of each body, the smallest first; all of them closed and valid. */
function volumes(...steps: Step[]): number[] {
  const built = buildSteps(...steps);
  const { error, warnings } = built.step("f");
  expect(error?.message, JSON.stringify(steps)).toBeUndefined();
  expect(warnings.map(({ code }) => code)).toEqual([]);
  const made = built.reports.filter(({ id }) => id.startsWith("f:"));
  for (const { closed, valid } of made) expect({ closed, valid }).toEqual({ closed: true, valid: true });
  return made.map(({ volume }) => volume!).sort((a, b) => a - b);
}
const only = (...steps: Step[]) => {
  const all = volumes(...steps);
  expect(all).toHaveLength(1);
  return all[0]!;
};

describe("nothing but planes and drawings", () => {
  test("six planes enclose a box", () => {
    const planes = [
      plane("a", "yz", -7),
      plane("b", "yz", 12),
      plane("c", "zx", 3),
      plane("d", "zx", 9),
      plane("e", "xy", -100),
      plane("g", "xy", 250),
    ];
    expect(
      only(
        ...planes,
        fill(
          [],
          planes.map(({ id }) => id),
        ),
      ),
    ).toBeCloseTo(19 * 6 * 350, 6);
  });

  test("four planes enclose a tetrahedron, however far from their origins its corners are", () => {
    const through = (id: string, normal: number[], at: number[]) => ({
      id,
      type: "workplane",
      base: "normal",
      normal,
      through: at,
    });
    const planes = [
      through("a", [1, 0, 0], [1000, 0, 0]),
      through("b", [0, 1, 0], [0, 2000, 0]),
      through("c", [0, 0, 1], [0, 0, 3000]),
      through("d", [1, 1, 1], [1010, 2000, 3000]),
    ];
    // Edges of 10 along the axes: 10³ / 6.
    expect(only(...planes, fill([], ["a", "b", "c", "d"]))).toBeCloseTo(1000 / 6, 6);
  });

  test("a drawing goes on for ever square to its plane: a circle between two slanting planes", () => {
    const circle = {
      id: "k",
      type: "sketch",
      on: "xy",
      entities: [
        { id: "o", type: "point", x: 40, y: 5 },
        { id: "c", type: "circle", centre: "o", radius: 6 },
      ],
    };
    const slanting = { id: "s", type: "workplane", base: "normal", normal: [1, 0, 2], through: [40, 5, 30] };
    // The mean height is that at the axis.
    expect(only(circle, plane("p", "xy", -4), slanting, fill([], ["k", "p", "s"])) / (Math.PI * 36 * 34)).toBeCloseTo(
      1,
      9,
    );
  });

  test("two drawings square to each other: two crossing cylinders, 16r³/3", () => {
    const circle = (id: string, on: string) => ({
      id,
      type: "sketch",
      on,
      entities: [
        { id: "o", type: "point", x: 0, y: 0 },
        { id: "c", type: "circle", centre: "o", radius: 9 },
      ],
    });
    const part = only(circle("k", "xy"), circle("l", "yz"), fill([], ["k", "l"]));
    expect(part / ((16 * 729) / 3)).toBeCloseTo(1, 7);
  });
});

test("open lines that run on enclose where they meet, far from where they are drawn", () => {
  const lines = [
    [0, 0, 4, 0],
    [100, 10, 100, 14],
    [20, 80, 24, 80],
    [-50, 3, -50, 9],
  ];
  const open = {
    id: "k",
    type: "sketch",
    on: "xy",
    entities: lines.flatMap(([x, y, u, v], i) => [
      { id: `a${i}`, type: "point", x, y },
      { id: `b${i}`, type: "point", x: u, y: v },
      { id: `l${i}`, type: "line", from: `a${i}`, to: `b${i}` },
    ]),
  };
  const steps = [open, plane("p", "xy", 0), plane("q", "xy", 5)];
  expect(only(...steps, fill([], ["k", "p", "q"], { runOn: true }))).toBeCloseTo(150 * 80 * 5, 5);
  expect(buildSteps(...steps, fill([], ["k", "p", "q"])).step("f").error?.code).toBe("nothing-enclosed");
});

describe("bodies filled to a level", () => {
  const bowl = [
    { id: "b", type: "sphere", diameter: 100 },
    plane("rim", "xy", 0),
    { id: "h", type: "seam", preset: "trim", stock: ["b"], cutters: ["rim"], keepSide: { rim: "back" } },
    { id: "i", type: "sphere", diameter: 90 },
    { id: "s", type: "seam", preset: "subtract", stock: ["h"], cutters: ["i"], keepCutters: false },
  ];

  test.each([-44, -30, -12.5, -1])("a hollow half ball to %d: a spherical segment, πh²(3R − h)/3", (level) => {
    const h = 45 + level;
    expect(
      only(...bowl, plane("l", "xy", level), fill(["s"], ["l"])) / ((Math.PI * h * h * (135 - h)) / 3),
    ).toBeCloseTo(1, 9);
  });

  test("its own mouth closed: half of the ball within", () => {
    expect(only(...bowl, fill(["s"], [], { close: true })) / ((2 / 3) * Math.PI * 45 ** 3)).toBeCloseTo(1, 9);
  });

  test("a plane along the very mouth closes it, too; one below and one at the mouth make two", () => {
    expect(only(...bowl, fill(["s"], ["rim"])) / ((2 / 3) * Math.PI * 45 ** 3)).toBeCloseTo(1, 9);
    const [above, below] = volumes(...bowl, plane("l", "xy", -10), fill(["s"], ["l"], { close: true }));
    const h = 35;
    expect(below! / ((Math.PI * h * h * (135 - h)) / 3)).toBeCloseTo(1, 9);
    expect((above! + below!) / ((2 / 3) * Math.PI * 45 ** 3)).toBeCloseTo(1, 9);
  });

  // A ball of 30 with a hollow of 27, a neck of bore 14 up to 45, and a bore of 8 through its side.
  const [R, r, a] = [30, 27, 4];
  const flask = [
    { id: "o", type: "sphere", diameter: 2 * R },
    { id: "n", type: "cylinder", diameter: 20, height: 45 },
    { id: "u", type: "seam", preset: "union", stock: ["o", "n"] },
    { id: "i", type: "sphere", diameter: 2 * r },
    { id: "m", type: "cylinder", diameter: 14, height: 60 },
    { id: "t", type: "cylinder", diameter: 2 * a, height: 60, axis: "x" },
    { id: "s", type: "seam", preset: "subtract", stock: ["u"], cutters: ["i", "m", "t"], keepCutters: false },
  ];
  /** What a bore of radius `by` through the middle of two balls holds between their skins, on one side of it. */
  const between = (outer: number, inner: number, by: number) => {
    const within = (ball: number) => ball ** 3 - (ball * ball - by * by) ** 1.5;
    return ((2 * Math.PI) / 3) * (within(outer) - within(inner));
  };

  test.each([10, 22])("a round-bottomed flask to %d, its neck and a bore in its side closed", (level) => {
    const [above, below] = volumes(...flask, plane("l", "xy", level), fill(["s"], ["l"], { close: true }));
    const segment = (Math.PI * (r + level) ** 2 * (2 * r - level)) / 3;
    expect(below! / (segment + between(R, r, a))).toBeCloseTo(1, 8);
    // The rest of the hollow, and of the neck's bore what is past the hollow, up to its mouth at 45.
    const cap = (2 / 3) * Math.PI * (r ** 3 - (r * r - 49) ** 1.5);
    expect(above! / ((4 / 3) * Math.PI * r ** 3 - segment + Math.PI * 49 * 45 - cap)).toBeCloseTo(1, 8);
  });

  test("the same, closed by planes: one at the mouth of the neck, one across the side", () => {
    const planes = [plane("l", "xy", 10), plane("e", "yz", 29)];
    const below = volumes(...flask, ...planes, fill(["s"], ["l", "e"])).at(-1)!;
    const segment = (Math.PI * (r + 10) ** 2 * (2 * r - 10)) / 3;
    // A bore to 29, less what of it is in the hollow.
    const side = Math.PI * a * a * 29 - (2 / 3) * Math.PI * (r ** 3 - (r * r - a * a) ** 1.5);
    expect(below / (segment + side)).toBeCloseTo(1, 8);
  });

  test("what is closed all round needs nothing: the hollow of a shell", () => {
    const shelled = [
      { id: "b", type: "box", size: [30, 20, 10] },
      { id: "h", type: "shell", body: ["b"], thickness: 2, open: [] },
    ];
    expect(only(...shelled, fill(["h"]))).toBeCloseTo(26 * 16 * 6, 6);
  });
});

describe("openings closed along the faces that they are in", () => {
  const bar = (id: string, axis: string | null) => [
    { id: `${id}0`, type: "cylinder", diameter: 12, height: 100, at: [0, 0, -50] },
    ...(axis ? [{ id, type: "move", bodies: [`${id}0`], turn: 90, axis }] : []),
  ];
  const block = { id: "b", type: "box", size: [60, 40, 30], at: [0, 0, -15] };

  test("two crossing bores of one size: their volumes less what they share, 16r³/3", () => {
    const steps = [
      block,
      ...bar("x", "y"),
      ...bar("y", "x"),
      { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["x", "y"], keepCutters: false },
    ];
    expect(only(...steps, fill(["s"], [], { close: true })) / (Math.PI * 36 * 100 - (16 * 216) / 3)).toBeCloseTo(1, 8);
  });

  test("a chamber with a thick wall: an opening through it is one room with the chamber, to its outer face", () => {
    const steps = [
      block,
      { id: "h", type: "shell", body: ["b"], thickness: 5, open: [] },
      { id: "c", type: "cylinder", diameter: 8, height: 40 },
      { id: "s", type: "seam", preset: "subtract", stock: ["h"], cutters: ["c"], keepCutters: false },
    ];
    expect(only(...steps, fill(["s"], [], { close: true })) / (50 * 30 * 20 + Math.PI * 16 * 5)).toBeCloseTo(1, 9);
  });

  test("a bore across a round bar: its mouths are on the round skin", () => {
    const [r, R] = [5, 20];
    const steps = [
      { id: "b", type: "cylinder", diameter: 2 * R, height: 80, at: [0, 0, -40] },
      ...bar("x", "y").map((step) => (step.type === "cylinder" ? { ...step, diameter: 2 * r } : step)),
      { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["x"], keepCutters: false },
    ];
    // ∫ 2·√(R² − y²) · 2·√(r² − y²) dy from −r to r, by Simpson's rule after y = r sin t.
    const n = 2000;
    let sum = 0;
    for (let i = 0; i <= n; i++) {
      const t = -Math.PI / 2 + (Math.PI * i) / n;
      const weight = i === 0 || i === n ? 1 : i % 2 ? 4 : 2;
      sum += weight * 4 * Math.sqrt(R * R - (r * Math.sin(t)) ** 2) * (r * Math.cos(t)) ** 2;
    }
    expect(only(...steps, fill(["s"], [], { close: true })) / ((sum * Math.PI) / n / 3)).toBeCloseTo(1, 8);
  });

  test("bosses have rims, too, and enclose nothing; a blind pocket is filled", () => {
    const steps = [
      block,
      { id: "p", type: "box", size: [10, 10, 20], at: [15, 0, 5] },
      { id: "u", type: "seam", preset: "union", stock: ["b", "p"] },
      { id: "q", type: "box", size: [8, 12, 20], at: [-15, 0, 10] },
      { id: "s", type: "seam", preset: "subtract", stock: ["u"], cutters: ["q"], keepCutters: false },
    ];
    expect(only(...steps, fill(["s"], [], { close: true }))).toBeCloseTo(8 * 12 * 5, 6);
  });
});

describe("rooms among several bodies", () => {
  const box = (id: string, size: number[], at: number[]) => ({ id, type: "box", size, at });
  const plates = [
    box("a", [40, 30, 5], [0, 0, 0]),
    box("b", [40, 30, 5], [0, 0, 25]),
    box("c", [5, 30, 20], [-17.5, 0, 5]),
    box("d", [5, 30, 20], [17.5, 0, 5]),
    box("e", [30, 5, 20], [0, -12.5, 5]),
  ];
  const last = (size: number) => box("g", [size, 5, 20], [0, 12.5, 5]);
  const all = fill(["a", "b", "c", "d", "e", "g"]);

  test("six plates that meet", () => expect(only(...plates, last(30), all)).toBeCloseTo(30 * 20 * 20, 6));

  test("one of them a hundredth short on each side: told between which, and where", () => {
    const { error } = buildSteps(...plates, last(29.98), all).step("f");
    expect(error?.code).toBe("nothing-enclosed");
    expect(error!.message).toMatch(
      /^These enclose nothing: Block \d and Block 6 are 0\.01 mm apart, and one other gap\./,
    );
    expect(Math.abs(error!.at![0])).toBeCloseTo(15, 1);
    expect(error!.places).toHaveLength(1);
  });

  test("a sheet that nearly meets another: the leak as a line, with its width from end to end", () => {
    const draft = (id: string, points: number[][], more: object = {}) => ({
      id,
      type: "sketch",
      ...more,
      entities: points.flatMap(([x, y], i) => [
        { id: `p${i}`, type: "point", x, y },
        ...(i > 0 ? [{ id: `l${i}`, type: "line", from: `p${i - 1}`, to: `p${i}` }] : []),
      ]),
    });
    const skin = (by: number) => [
      draft("k", [
        [-20, 0],
        [20, 0],
      ]),
      { id: "a", type: "extrude", name: "Floor", sketch: ["k"], as: "sheet", extent: "symmetric", distance: 60 },
      draft("q", [
        [-20, 0.02],
        [-20, 15],
        [20, 15],
        [20, 0.02 + by],
      ]),
      { id: "b", type: "extrude", name: "Hood", sketch: ["q"], as: "sheet", extent: "symmetric", distance: 60 },
    ];
    const ends = [plane("p", "xy", -25), plane("w", "xy", 25)];
    const { error } = buildSteps(...skin(0.05), ...ends, fill(["a", "b"], ["p", "w"])).step("f");
    expect(error!.message).toMatch(
      /^These enclose nothing: Floor and Hood are 0\.02 mm to 0\.07 mm apart along 1[12]\d mm\./,
    );
    const along = error!.paths!.flat();
    expect(along.length).toBeGreaterThan(20);
    for (const [x, y] of along) {
      expect(Math.abs(Math.abs(x!) - 20)).toBeLessThan(1e-6);
      expect(y!).toBeLessThan(0.0701);
    }
    // A rim that nothing comes near is told with its length, all round.
    const open = buildSteps(...skin(0).slice(2), fill(["b"], [])).step("f").error!;
    expect(open.message).toContain("it ends in an open rim 259.92 mm long");
    expect(open.paths).toHaveLength(8);
  });

  test("bars that meet in edges alone, between two planes", () => {
    const bars = [
      box("c", [10, 10, 20], [-15, 0, 0]),
      box("d", [10, 10, 20], [15, 0, 0]),
      box("e", [20, 10, 20], [0, 10, 0]),
      box("g", [20, 10, 20], [0, -10, 0]),
    ];
    const levels = [plane("p", "xy", 2), plane("q", "xy", 12)];
    expect(only(...bars, ...levels, fill(["c", "d", "e", "g"], ["p", "q"]))).toBeCloseTo(20 * 10 * 10, 6);
  });

  test("a ball that touches a tube all round parts its bore in two", () => {
    const tube = [
      { id: "o", type: "cylinder", diameter: 40, height: 60, at: [0, 0, -30] },
      { id: "i", type: "cylinder", diameter: 30, height: 80, at: [0, 0, -40] },
      { id: "t", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
      { id: "k", type: "sphere", diameter: 30 },
    ];
    const half = (Math.PI * 225 * 60 - (4 / 3) * Math.PI * 15 ** 3) / 2;
    const rooms = volumes(...tube, fill(["t", "k"], [], { close: true }));
    expect(rooms.map((volume) => volume / half)).toEqual([expect.closeTo(1, 9), expect.closeTo(1, 9)]);
  });

  test("a hollow box in a hollow box: the room between them, and the one within", () => {
    const nested = [
      { id: "o", type: "box", size: [50, 50, 50] },
      { id: "h", type: "shell", body: ["o"], thickness: 3, open: [] },
      { id: "n", type: "box", size: [20, 20, 20], at: [0, 0, 10] },
      { id: "m", type: "shell", body: ["n"], thickness: 3, open: [] },
    ];
    const rooms = volumes(...nested, fill(["h", "m"]));
    expect(rooms).toEqual([expect.closeTo(14 ** 3, 6), expect.closeTo(44 ** 3 - 8000, 6)]);
  });
});

describe("what encloses nothing is told, with a place and a way on", () => {
  const trough = [
    { id: "b", type: "box", size: [60, 40, 30] },
    { id: "h", type: "shell", body: ["b"], open: [{ body: "b:block", face: "b:side:z+" }], thickness: 5 },
  ];

  test("an open body: where it is open, and its openings closed as a repair that works", () => {
    const built = buildSteps(...trough, fill(["h"]));
    const { error, state } = built.step("f");
    expect({ state, code: error?.code }).toEqual({ state: "failed", code: "nothing-enclosed" });
    expect(error!.message).toMatch(/^Block encloses nothing: it is open here\. Add what closes it/);
    const [x, y, z] = error!.at!;
    expect(z).toBeCloseTo(30, 6);
    expect(Math.abs(x!)).toBeLessThan(25);
    expect(Math.abs(y!)).toBeLessThan(15);
    expect(error!.repair!.set).toEqual({ close: true });
    expect(only(...trough, fill(["h"], [], error!.repair!.set))).toBeCloseTo(50 * 30 * 25, 6);
  });

  test("planes that enclose nothing, one alone, and nothing at all", () => {
    const two = [plane("p", "xy", 0), plane("q", "yz", 5)];
    for (const cutters of [["p"], ["p", "q"]]) {
      const { error } = buildSteps(...two, fill([], cutters)).step("f");
      expect(error?.code).toBe("nothing-enclosed");
      expect(error?.repair).toBeUndefined();
    }
    expect(buildSteps(...two, fill([], [])).step("f").error?.code).toBe("nothing-picked");
  });

  test("a solid block has no room in it, closed or not", () => {
    const block = { id: "b", type: "box", size: [10, 10, 10] };
    for (const close of [false, true])
      expect(buildSteps(block, fill(["b"], [], { close })).step("f").error?.code).toBe("nothing-enclosed");
  });

  test("a level above the brim bounds nothing: it is said, and what is enclosed without it is filled", () => {
    const built = buildSteps(...trough, plane("l", "xy", 80), fill(["h"], ["l"], { close: true }));
    const { error, warnings } = built.step("f");
    expect(error).toBeUndefined();
    expect(warnings.map(({ code, message }) => [code, message])).toEqual([
      ["bounds-nothing", "Workplane bounds nothing that is enclosed. Move it, or leave it out."],
    ]);
  });
});

describe("sheets and single faces enclose, too", () => {
  const tube = { id: "t", type: "extrude", sketch: ["k"], as: "sheet", distance: 40 };
  const circle = {
    id: "k",
    type: "sketch",
    on: "xy",
    entities: [
      { id: "o", type: "point", x: 0, y: 0 },
      { id: "c", type: "circle", centre: "o", radius: 10 },
    ],
  };

  test("a tube of sheet between two planes, and with its ends closed", () => {
    const volume = only(circle, tube, plane("p", "xy", 5), plane("q", "xy", 25), fill(["t"], ["p", "q"]));
    expect(volume / (Math.PI * 100 * 20)).toBeCloseTo(1, 9);
    expect(only(circle, tube, fill(["t"], [], { close: true })) / (Math.PI * 100 * 40)).toBeCloseTo(1, 9);
  });

  test("a face of a body, run on along its own surface, between two planes", () => {
    const bar = { id: "b", type: "cylinder", diameter: 20, height: 8 };
    const face = { body: "b:cylinder", face: "b:side" };
    const volume = only(
      bar,
      plane("p", "xy", 30),
      plane("q", "xy", 50),
      fill([], ["p", "q"], { cutterFaces: [face], runOn: true }),
    );
    expect(volume / (Math.PI * 100 * 20)).toBeCloseTo(1, 9);
  });
});

test("what is filled is the same bodies when their level moves", () => {
  const chambers = [
    { id: "b", type: "box", size: [60, 40, 30] },
    { id: "l", type: "box", size: [20, 30, 40], at: [-14, 0, 5] },
    { id: "r", type: "box", size: [24, 30, 40], at: [14, 0, 5] },
    { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["l", "r"], keepCutters: false },
  ];
  const at = (offset: number) => buildSteps(...chambers, plane("p", "xy", offset), fill(["s"], ["p"]));
  const [before, after] = [at(12), at(19)];
  const ids = (built: ReturnType<typeof at>) => built.bodies.flatMap(({ id }) => (id.startsWith("f:") ? [id] : []));
  expect(ids(before)).toHaveLength(2);
  expect(ids(after)).toEqual(ids(before));
});
