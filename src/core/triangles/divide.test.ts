import fc from "fast-check";
import { beforeAll, describe, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { areaOf, MeshStore, volumeOf, volumeUnder } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { roughlyDivided } from ".";
import { loadNodeTriangles } from "./node";

beforeAll(async () => {
  await loadNodeKernel();
  await loadNodeTriangles();
});

type Step = Record<string, unknown>;

/** What the last step divides, as triangles; null where there are none. */
function rough(steps: readonly Step[]): ReturnType<typeof roughlyDivided> {
  const job = jobOf([...steps]);
  const step = String(steps.at(-1)!.id);
  const { parties } = build(job, { upTo: step, parties: step });
  if (!parties) return null;
  try {
    return roughlyDivided(parties, new MeshStore());
  } finally {
    parties.free();
  }
}

const nameOf = ({ stock, sides }: { stock: readonly string[]; sides: Record<string, string> }): string =>
  JSON.stringify([[...stock].sort(), Object.entries(sides).sort()]);

/** Volumes by stock and sides. */
function sums<T extends { stock: readonly string[]; sides: Record<string, string> }>(
  pieces: readonly T[],
  of: (piece: T) => number,
): Map<string, number> {
  const found = new Map<string, number>();
  for (const piece of pieces) found.set(nameOf(piece), (found.get(nameOf(piece)) ?? 0) + of(piece));
  return found;
}

/** Holds the triangles against the exact pieces: of the same stock, on the same sides, as large as triangles can tell. */
function hold(steps: readonly Step[]): "held" | "none" | "refused" {
  const step = String(steps.at(-1)!.id);
  const exact = build(jobOf([...steps]), { upTo: step, pieces: step });
  if (!exact.pieces || exact.step(step).state === "failed") return "refused";
  try {
    const found = rough(steps);
    if (!found) return "none";
    const own = exact.pieces.map(({ piece, shape }) => ({ ...piece, shape }));
    const volumes = sums(own, ({ shape }) => volumeOf(shape));
    const areas = sums(own, ({ shape }) => areaOf(shape));
    const drawn = sums(found.pieces, ({ mesh }) => volumeUnder(mesh));
    for (const key of new Set([...volumes.keys(), ...drawn.keys()])) {
      // Each face is off by what its triangles are, and what is thinner than twice that is not drawn.
      const area = areas.get(key) ?? Math.max(...areas.values());
      expect(
        Math.abs((drawn.get(key) ?? 0) - (volumes.get(key) ?? 0)),
        `${key} of ${JSON.stringify(steps)}`,
      ).toBeLessThan(found.within * area + 1e-3);
    }
    return "held";
  } finally {
    freePieces(exact.pieces);
  }
}

function piecesOf(steps: readonly Step[]): number {
  const step = String(steps.at(-1)!.id);
  const { pieces } = build(jobOf([...steps]), { upTo: step, pieces: step });
  freePieces(pieces!);
  return pieces!.length;
}

const block = (more: Step = {}): Step => ({ id: "a", type: "box", size: [60, 50, 40], at: [0, 0, -20], ...more });
const seam = (more: Step): Step => ({ id: "s", type: "seam", stock: ["a"], ...more });

describe("what a step divides, as triangles", () => {
  test.each<[string, Step[]]>([
    [
      "by a plane, turned round",
      [
        block(),
        { id: "w", type: "workplane", base: "yz", offset: 7, flip: true },
        seam({ preset: "split", cutters: ["w"] }),
      ],
    ],
    [
      "by bodies that meet each other",
      [
        block(),
        { id: "b", type: "cylinder", diameter: 20, height: 90, at: [5, 0, -45] },
        { id: "c", type: "cylinder", diameter: 16, height: 90, at: [-45, 0, 0], axis: "x" },
        seam({ preset: "subtract", cutters: ["b", "c"] }),
      ],
    ],
    [
      "by bodies apart from each other",
      [
        block(),
        { id: "b", type: "cylinder", diameter: 8, height: 90, at: [18, 12, -45] },
        { id: "c", type: "cylinder", diameter: 8, height: 90, at: [-18, 12, -45] },
        { id: "d", type: "sphere", diameter: 14, at: [0, -12, 0] },
        seam({ preset: "split", cutters: ["b", "c", "d"] }),
      ],
    ],
    [
      "united",
      [block(), { id: "b", type: "sphere", diameter: 30, at: [25, 20, 10] }, seam({ preset: "union", cutters: ["b"] })],
    ],
    [
      "chosen among what three bodies share",
      [
        block(),
        { id: "b", type: "sphere", diameter: 34, at: [22, 0, 0] },
        { id: "c", type: "cylinder", diameter: 20, height: 80, at: [12, 0, -40] },
        seam({ preset: "choose", stock: ["a", "b", "c"], cutters: [] }),
      ],
    ],
    [
      "two bodies, each by the other and by a plane",
      [
        block(),
        { id: "b", type: "sphere", diameter: 34, at: [22, 0, 0] },
        { id: "w", type: "workplane", base: "zx", offset: 4 },
        seam({ preset: "split", stock: ["a", "b"], cutters: ["w"], mutual: true }),
      ],
    ],
  ])("%s", (_, steps) => {
    expect(hold(steps)).toBe("held");
    expect(rough(steps)!.pieces).toHaveLength(piecesOf(steps));
  });

  test("by more bodies than are kept welded", () => {
    const bars = Array.from({ length: 70 }, (_, i) => ({
      id: `c${i}`,
      type: "cylinder",
      diameter: 2,
      height: 60,
      at: [6 * (i % 9) - 24, 6 * Math.floor(i / 9) - 21, -30],
    }));
    const steps = [block(), ...bars, seam({ preset: "split", cutters: bars.map(({ id }) => id) })];
    for (const _ of [1, 2]) expect(rough(steps)!.pieces).toHaveLength(71);
  });

  const wave = (open: boolean): Step => ({
    id: "k",
    type: "sketch",
    on: "zx",
    entities: [
      { id: "p1", type: "point", x: open ? 10 : -60, y: -10 },
      { id: "p2", type: "point", x: 0, y: 8 },
      { id: "p3", type: "point", x: open ? -10 : 60, y: -6 },
      { id: "l1", type: "line", from: "p1", to: "p2" },
      { id: "l2", type: "line", from: "p2", to: "p3" },
    ],
  });

  test("by a drawing, on its two sides", () => {
    expect(hold([block(), wave(false), seam({ preset: "split", cutters: ["k"] })])).toBe("held");
  });

  const circle = (id: string, x: number, radius: number) => [
    { id: `m${id}`, type: "point", x, y: 4 },
    { id: `c${id}`, type: "circle", centre: `m${id}`, radius },
  ];
  const square = (half: number, way: 1 | -1) => {
    const places = [
      [-half, -half],
      [half, -half],
      [half, half],
      [-half, half],
    ] as const;
    const points = places.map(([x, y], i) => ({ id: `q${i}`, type: "point", x: x * way, y }));
    return [...points, ...points.map(({ id }, i) => ({ id: `e${i}`, type: "line", from: id, to: `q${(i + 1) % 4}` }))];
  };
  test.each<[string, Step[]]>([
    ["a ring", circle("1", 0, 9)],
    ["two rings apart", [...circle("1", -12, 6), ...circle("2", 12, 5)]],
    ["a ring in a square", [...circle("1", 0, 5), ...square(12, 1)]],
    ["the same, drawn the other way round", [...circle("1", 0, 5), ...square(12, -1)]],
    ["two rings in one another", [...circle("1", 0, 10), ...circle("2", 2, 4)]],
  ])("by what is drawn closed, within it and without: %s", (_, entities) => {
    const steps = [block(), { id: "k", type: "sketch", on: "xy", entities }, seam({ preset: "split", cutters: ["k"] })];
    expect(hold(steps)).toBe("held");
    expect(rough(steps)!.pieces).toHaveLength(piecesOf(steps));
  });

  test("a drawing that crosses itself has no picture", () => {
    const [p1, p2, p3, p4] = [
      [-20, -8],
      [20, 9],
      [18, -9],
      [-18, 8],
    ].map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y }));
    const points = [p1!, p2!, p3!, p4!];
    const lines = points.map(({ id }, i) => ({ id: `l${i}`, type: "line", from: id, to: `p${(i + 1) % 4}` }));
    const drawing = { id: "k", type: "sketch", on: "zx", entities: [...points, ...lines] };
    expect(rough([block(), drawing, seam({ preset: "split", cutters: ["k"] })])).toBeNull();
  });

  test("a drawing that ends within the stock has no picture; the exact one says so", () => {
    const steps = [block(), wave(true), seam({ preset: "split", cutters: ["k"], runOn: false })];
    expect(rough(steps)).toBeNull();
  });

  test("of sheets, of what is filled or closed, of what cannot be done: none", () => {
    const sheet = [
      block(),
      { id: "o", type: "offset-sheet", faces: [{ body: "a:solid", face: "a:top" }], distance: 3 },
      { id: "w", type: "workplane", base: "yz", offset: 7 },
    ];
    expect(rough([...sheet, seam({ preset: "split", stock: ["o"], cutters: ["w"] })])).toBeNull();
    expect(rough([...sheet, seam({ preset: "fill", stock: ["a"], cutters: ["w"] })])).toBeNull();
    expect(rough([block(), seam({ preset: "split", cutters: [] })])?.pieces).toHaveLength(1);
    expect(rough([block(), seam({ preset: "split", cutters: ["gone"] })])).toBeNull();
  });

  test("law: it is what the exact pieces are, on every side of every cutter", () => {
    const whole = (most: number) => fc.integer({ min: -most, max: most });
    const size = fc.integer({ min: 4, max: 60 });
    const at = fc.tuple(whole(20), whole(20), whole(15));
    const axis = fc.constantFrom("x", "y", "z");
    const drawing = (id: string): fc.Arbitrary<Step> =>
      fc
        .tuple(
          fc.constantFrom("xy", "yz", "zx"),
          fc.array(fc.tuple(whole(40), whole(30)), { minLength: 2, maxLength: 4 }),
          fc.boolean(),
        )
        .map(([on, places, closed]) => {
          const points = places.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y }));
          const count = closed && places.length > 2 ? places.length : places.length - 1;
          const lines = points.slice(0, count).map(({ id: from }, i) => {
            return { id: `l${i}`, type: "line", from, to: `p${(i + 1) % places.length}` };
          });
          return { id, type: "sketch", on, entities: [...points, ...lines] };
        });
    const cutter = (name: string): fc.Arbitrary<Step> => {
      const id = fc.constant(name);
      const type = <T extends string>(word: T) => fc.constant(word);
      return fc.oneof(
        fc.record({ id, type: type("cylinder"), diameter: size, height: fc.integer({ min: 10, max: 120 }), at, axis }),
        fc.record({ id, type: type("sphere"), diameter: size, at }),
        fc.record({ id, type: type("box"), size: fc.tuple(size, size, size), at }),
        fc.record({
          id,
          type: type("cone"),
          diameter: size,
          top: fc.integer({ min: 0, max: 8 }),
          height: size,
          at,
          axis,
        }),
        fc.record({
          id,
          type: type("workplane"),
          base: fc.constantFrom("xy", "yz", "zx"),
          offset: whole(24),
          flip: fc.boolean(),
        }),
        fc.record({
          id,
          type: type("workplane"),
          base: fc.constant("normal"),
          through: at,
          normal: fc.tuple(whole(5), whole(5), fc.integer({ min: 1, max: 5 })),
          flip: fc.boolean(),
        }),
        drawing(name),
      );
    };
    const seen = { held: 0, none: 0, refused: 0 };
    fc.assert(
      fc.property(
        cutter("b"),
        cutter("c"),
        cutter("d"),
        fc.constantFrom("split", "trim"),
        fc.boolean(),
        (b, c, d, preset, runOn) => {
          seen[hold([block(), b, c, d, seam({ preset, cutters: ["b", "c", "d"], runOn })])]++;
        },
      ),
      { numRuns: Number(process.env.PROOF_TRIANGLES ?? 25), seed: Number(process.env.PROOF_SEED ?? 20261130) },
    );
    // Some drawings end within the stock, or fold back; what cuts nothing is refused.
    expect(seen.held).toBeGreaterThan(2 * seen.none);
  });
});
