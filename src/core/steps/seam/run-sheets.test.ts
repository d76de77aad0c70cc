import { beforeAll, describe, expect, test } from "vitest";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });
const line = (id: string, from: string, to: string) => ({ id, type: "line", from, to });

/** What is drawn, drawn out to both sides as a sheet. */
const drawn = (entities: readonly object[], distance: number) => [
  { id: "s", type: "sketch", on: "xy", entities },
  { id: "p", type: "extrude", sketch: ["s"], as: "sheet", extent: "symmetric", distance },
];

function made(...steps: object[]) {
  const built = buildSteps(...(steps as Record<string, unknown>[]));
  const { state, error } = built.step("t");
  const own = built.reports.filter(({ id }) => id.startsWith("t:"));
  return { state, error, volumes: own.map(({ volume }) => volume!).sort((a, b) => a - b) };
}

describe("sheets that run on", () => {
  const block = { id: "b", type: "box", size: [40, 40, 40], anchor: "centre" };
  const cut = (values: object) => ({ id: "t", type: "seam", preset: "split", stock: ["b"], ...values });

  test("a flat one as its plane: half of a block by a sheet that ends in it, or does not reach it", () => {
    for (const [from, to] of [
      [-5, 5],
      [30, 35],
      [-5, 60],
    ]) {
      const short = drawn([point("a", from!, 0), point("c", to!, 0), line("l", "a", "c")], 3);
      const { state, volumes } = made(block, ...short, cut({ cutters: ["p"], runSheets: true }));
      expect(state).toBe("good");
      expect(volumes).toEqual([expect.closeTo(32_000, 6), expect.closeTo(32_000, 6)]);
    }
  });

  test("bent: each flat goes on along itself, and they meet in the bend as before", () => {
    // Up along Y = 0 from X = −5, then square off along X = 10 in the way of −Y: a corner of 10 by 20 is cut out.
    const bent = drawn(
      [point("a", -5, 0), point("c", 10, 0), point("e", 10, -8), line("l", "a", "c"), line("m", "c", "e")],
      3,
    );
    const short = made(block, ...bent, cut({ cutters: ["p"] }));
    expect(short.error?.code).toBe("cutter-short");
    const offered = [short.error?.repair, ...(short.error?.others ?? [])].map((repair) => repair?.label);
    expect(offered).toContain("Run the sheet on past all the stock");
    const { state, volumes } = made(block, ...bent, cut({ cutters: ["p"], runSheets: true }));
    expect(state).toBe("good");
    expect(volumes).toEqual([expect.closeTo(30 * 20 * 40, 6), expect.closeTo(64_000 - 30 * 20 * 40, 6)]);
  });

  test("a round one along its axis", () => {
    const round = drawn([point("o", 0, 0), { id: "c", type: "circle", centre: "o", radius: 7 }], 6);
    const { state, volumes } = made(block, ...round, cut({ cutters: ["p"], runSheets: true }));
    expect(state).toBe("good");
    const bore = Math.PI * 49 * 40;
    expect(volumes).toEqual([expect.closeTo(bore, 6), expect.closeTo(64_000 - bore, 6)]);
  });

  const SHEETS: Record<string, { steps: object[]; at: number[] }> = {
    "a quarter round": {
      steps: drawn(
        [
          point("o", 0, 0),
          point("a", 10, 0),
          point("c", 0, 10),
          { id: "k", type: "arc", centre: "o", from: "a", to: "c" },
        ],
        6,
      ),
      at: [7.2, 7, 0],
    },
    "a cap of a ball": {
      steps: [
        { id: "q", type: "sphere", diameter: 24 },
        { id: "w", type: "workplane", base: "xy", offset: 7 },
        { id: "h", type: "seam", preset: "trim", stock: ["q"], cutters: ["w"] },
        { id: "p", type: "offset-sheet", faces: [{ body: "h", face: "q:skin" }], distance: 0 },
      ],
      at: [7, 0, 9.7],
    },
    "a cone": {
      steps: [
        { id: "q", type: "cone", diameter: 20, top: 6, height: 10 },
        { id: "p", type: "offset-sheet", faces: [{ body: "q", face: "q:side" }], distance: 0 },
      ],
      at: [6.5, 0, 5],
    },
    "a spline drawn out": {
      steps: drawn(
        [point("a", -9, -3), point("m", 0, 4), point("c", 8, -2), { id: "k", type: "spline", points: ["a", "m", "c"] }],
        6,
      ),
      at: [0, 4, 0],
    },
    "a corner of three flats": {
      steps: [
        { id: "q", type: "box", size: [12, 12, 12], anchor: "centre" },
        {
          id: "p",
          type: "offset-sheet",
          faces: ["x+", "y+", "z+"].map((side) => ({ body: "q", face: `q:side:${side}` })),
          distance: 0,
        },
      ],
      at: [6.5, 2, 2],
    },
  };

  test.each(Object.keys(SHEETS))("its sides are as they were where it reaches by itself: %s, mirrored too", (name) => {
    const { steps, at } = SHEETS[name]!;
    for (const mirrored of [false, true])
      for (const side of ["front", "back"]) {
        const cutter = mirrored ? "m" : "p";
        const stock = {
          id: "b",
          type: "box",
          size: [3, 3, 3],
          anchor: "centre",
          at: [mirrored ? -at[0]! : at[0], at[1], at[2]],
        };
        const [plain, onward] = [false, true].map((runSheets) =>
          made(
            stock,
            ...steps,
            ...(mirrored ? [{ id: "m", type: "mirror", bodies: ["p"], keep: false }] : []),
            cut({ preset: "trim", cutters: [cutter], keepSide: { [cutter]: side }, runSheets }),
          ),
        );
        expect(plain!.state).toBe("good");
        expect(plain!.volumes[0]).toBeLessThan(26);
        expect(onward!.state).toBe("good");
        // Where a free face is cut, the curve is near to 1e-7 mm, and another one where the face goes on.
        expect(onward!.volumes).toEqual([expect.closeTo(plain!.volumes[0]!, 6)]);
      }
  });
});
