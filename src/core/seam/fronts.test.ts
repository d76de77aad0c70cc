import { beforeAll, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { add, contains, type Shape, scale, unit } from "../kernel";
import { distanceToPoint } from "../kernel/facts/distance";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { WHOLE } from "../testing/sample";
import { Random } from "../testing/trust/random";

const SCENES = WHOLE ? 60 : 30;

beforeAll(loadNodeKernel);

const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });

/** Cutters of every kind, by chance, each of which crosses a block of 40 about the origin. */
function cutterOf(random: Random, id: string): { steps: object[]; cutters: string[]; faces?: object[] } {
  const some = (most: number) => random.between(-most, most);
  const disc = [point("o", some(8), some(8)), { id: "c", type: "circle", centre: "o", radius: random.between(4, 9) }];
  switch (random.pick(["plane", "ball", "sheet", "round sheet", "outline", "line", "face"])) {
    case "plane":
      return {
        steps: [
          {
            id,
            type: "workplane",
            base: "normal",
            normal: [some(1), some(1), some(1)],
            through: [some(5), some(5), 0],
          },
        ],
        cutters: [id],
      };
    case "ball":
      return {
        steps: [{ id, type: "sphere", diameter: random.between(10, 30), at: [some(18), some(18), some(18)] }],
        cutters: [id],
      };
    case "sheet": {
      const line = [point("a", some(10), -60), point("b", some(10), 60), { id: "l", type: "line", from: "a", to: "b" }];
      if (random.between(0, 1) < 0.5) Object.assign(line[2]!, { from: "b", to: "a" });
      return {
        steps: [
          { id: `${id}s`, type: "sketch", on: "xy", entities: line },
          { id, type: "extrude", sketch: [`${id}s`], as: "sheet", extent: "symmetric", distance: 100 },
        ],
        cutters: [id],
      };
    }
    case "round sheet":
      return {
        steps: [
          { id: `${id}s`, type: "sketch", on: "yz", entities: disc },
          { id, type: "extrude", sketch: [`${id}s`], as: "sheet", extent: "symmetric", distance: 100 },
        ],
        cutters: [id],
      };
    case "outline":
      return { steps: [{ id, type: "sketch", on: "zx", entities: disc }], cutters: [id] };
    case "line":
      return {
        steps: [
          {
            id,
            type: "sketch",
            on: "yz",
            entities: [
              point("a", some(9), -60),
              point("b", some(9), 60),
              { id: "l", type: "line", from: "a", to: "b" },
            ],
          },
        ],
        cutters: [id],
      };
    default:
      return {
        steps: [{ id: `${id}b`, type: "box", size: [30, 30, 30], at: [some(9), some(9), some(9)] }],
        cutters: [],
        faces: [{ body: `${id}b`, face: `${id}b:side:${random.pick(["x-", "y-", "z-"])}` }],
      };
  }
}

test("where each cutter cuts, what stays of its front lies that way, and its back the other: 60 scenes by chance, solids and sheets", () => {
  const random = new Random(3107);
  let told = 0;
  for (let i = 0; i < SCENES; i++) {
    const knives = Array.from({ length: 1 + Math.floor(random.between(0, 3)) }, (_, k) => cutterOf(random, `k${k}`));
    const stock = { id: "b", type: "box", size: [40, 40, 40], anchor: "centre" };
    const sheet = { id: "u", type: "offset-sheet", faces: [{ body: "b", face: "b:side:z+" }], distance: -11.3 };
    const ofSheet = i % 3 === 2;
    const built = build(
      jobOf([
        stock,
        ...(ofSheet ? [sheet] : []),
        ...knives.flatMap(({ steps }) => steps),
        {
          id: "s",
          type: "seam",
          // All stays, whatever its side.
          preset: "trim",
          rules: [{ where: {}, fate: "keep" }],
          stock: [ofSheet ? "u" : "b"],
          cutters: knives.flatMap(({ cutters }) => cutters),
          cutterFaces: knives.flatMap(({ faces }) => faces ?? []),
          runOn: true,
        },
      ] as never),
      { pieces: "s" },
    );
    const pieces = built.pieces ?? [];
    const near = 1e-4;
    for (const { cutter, at, way } of built.fronts ?? []) {
      expect(Math.hypot(...way)).toBeCloseTo(1, 9);
      // In a level sheet its sides lie along it.
      const along = ofSheet ? ([way[0], way[1], 0] as const) : way;
      if (Math.hypot(...along) < 0.05) continue;
      const there = (sign: number) => {
        const place = add(at, scale(unit([...along]), sign * near));
        return pieces.filter(({ piece, shape }) =>
          piece.form === "solid"
            ? contains(shape as Shape, place)
            : distanceToPoint(shape as Shape, place)!.gap < near / 10,
        );
      };
      const sides = (sign: number) => there(sign).map(({ piece }) => piece.sides[cutter]);

      told++;
      expect(
        sides(1).every((side) => side === "front" || side === "out"),
        `${i} ${cutter}`,
      ).toBe(true);
      expect(
        sides(-1).every((side) => side === "back" || side === "in"),
        `${i} ${cutter}`,
      ).toBe(true);
      expect(sides(1).length + sides(-1).length).toBeGreaterThan(0);
    }
    if (pieces.length > 0) freePieces(pieces);
  }
  expect(told).toBeGreaterThan(0.6 * SCENES);
});
