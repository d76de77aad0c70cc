import { beforeAll, describe, expect, test } from "vitest";
import { areaOf, type Shape } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { build, jobOf } from "../harness";
import { Random } from "./random";
import { type SheetVerdict, trySheetPair } from "./sheet-pairs";

beforeAll(loadNodeKernel);

/** How many are tried: a sample on every run, all of them by `npm run proof`. */
const SHEETS = Number(process.env.PROOF_SHEETS ?? 12);
const SEED = Number(process.env.PROOF_SEED ?? 8500);

test(`${SHEETS} sheets divided by nearly the solids that they were taken off: right, told or refused`, () => {
  const verdicts: SheetVerdict[] = [];
  for (let i = 0; i < SHEETS; i++) verdicts.push(trySheetPair(new Random(SEED + i)));
  const count = (outcome: SheetVerdict["outcome"]) => verdicts.filter((verdict) => verdict.outcome === outcome).length;
  console.log(
    `sheets: ${SHEETS}; right ${count("right")}, told ${count("told")}, refused ${count("refused")}, wrong ${count("wrong")}`,
  );
  const wrong = verdicts.filter(({ outcome }) => outcome === "wrong");
  expect(wrong.map(({ why, steps }) => `${why}: ${JSON.stringify(steps)}`)).toEqual([]);
});

const R = 12.345;

/** The areas of what a sheet is split into, the smallest first, with the sides that they lie on of the one cutter. */
function split(...steps: Record<string, unknown>[]) {
  const seam = { id: "s", type: "seam", preset: "split", stock: ["t"], cutters: ["c"] };
  const built = build(jobOf([...steps, seam]), { pieces: "s" });
  expect(built.step("s").error?.message).toBeUndefined();
  return (built.pieces ?? [])
    .map(({ piece, shape }) => ({ side: Object.values(piece.sides)[0], area: areaOf(shape as Shape) }))
    .sort((one, other) => one.area - other.area);
}

const off = (body: string, ...faces: string[]) => ({
  id: "t",
  type: "offset-sheet",
  distance: 0,
  faces: faces.map((face) => ({ body, face: `${body}:${face}` })),
});

describe("a sheet in the skin of a solid, or nearly", () => {
  const bar = { id: "a", type: "cylinder", diameter: 2 * R, height: 30 };
  const drawn = [
    {
      id: "k",
      type: "sketch",
      entities: [
        { id: "o", type: "point", x: 0, y: 0 },
        { id: "c", type: "circle", centre: "o", radius: R },
      ],
    },
    { id: "t", type: "extrude", as: "sheet", sketch: ["k"], distance: 30 },
  ];
  const taken = [bar, off("a", "side")];

  test.each([3e-6, 1e-5, 1e-4, 1e-3, -1e-3, 1e-2, 0.1, 1])(
    "a tube's side and the bar in it moved %d mm aside, two thirds as long: the half on that side lies in it",
    (by) => {
      const cutter = { id: "c", type: "cylinder", diameter: 2 * R, height: 20, at: [by, 0, 0] };
      const pieces = split(...taken, cutter);
      // Two equal circles `by` apart cross where x is by/2: in the other lies an arc of π R − by, to the second order.
      expect(pieces.map(({ side }) => side)).toEqual(["in", "out"]);
      const inside = 20 * (Math.PI * R - 2 * R * Math.asin(Math.abs(by) / 2 / R));
      expect(Math.abs(pieces[0]!.area - inside)).toBeLessThan(1e-6 * inside);
      expect(pieces[1]!.area).toBeCloseTo(2 * Math.PI * R * 30 - inside, 3);
    },
  );

  test.each([
    ["taken off a bar", taken],
    ["drawn out from a circle", drawn],
  ])("%s and in the skin of a shorter one: it ends where that ends, and nowhere else", (_, steps) => {
    const pieces = split(...steps, { id: "c", type: "cylinder", diameter: 2 * R, height: 20 });
    expect(pieces).toHaveLength(2);
    expect(pieces[0]!.area).toBeCloseTo(2 * Math.PI * R * 10, 6);
    expect(pieces[1]!.area).toBeCloseTo(2 * Math.PI * R * 20, 6);
  });

  test("the skin of a bar that leans by a hundred-thousandth of a degree: no end of it is lost", () => {
    const long = { id: "a", type: "cylinder", diameter: 34.954, height: 24.193 };
    const lean = { id: "m", type: "move", bodies: ["c"], turn: 1e-5, axis: "y" };
    const seam = { id: "s", type: "seam", preset: "split", stock: ["t"], cutters: ["c"] };
    const built = build(jobOf([long, off("a", "side", "cap:base", "cap:end"), { ...long, id: "c" }, lean, seam]));
    // All of it lies in the other's skin: once it was cut there, and one end was gone.
    expect(built.step("s").error).toMatchObject({ code: "cutter-misses" });
  });

  test("a ball's skin and the ball, turned about its middle: no line of its own ends in it", () => {
    const ball = { type: "sphere", diameter: 39.283 };
    const turn = { id: "m", type: "move", bodies: ["c"], turn: -1e-4, axis: "y" };
    const pieces = split({ ...ball, id: "a" }, off("a", "skin"), { ...ball, id: "c" }, turn);
    expect(pieces.reduce((sum, { area }) => sum + area, 0)).toBeCloseTo(Math.PI * 39.283 ** 2, 3);
  });
});

describe("solids that touch a sheet: where they do nothing is divided, and nothing is torn", () => {
  const flat = [
    {
      id: "k",
      type: "sketch",
      on: "zx",
      entities: [
        { id: "a", type: "point", x: 0, y: -40 },
        { id: "b", type: "point", x: 0, y: 40 },
        { id: "l", type: "line", from: "a", to: "b" },
      ],
    },
    { id: "t", type: "extrude", as: "sheet", sketch: ["k"], extent: "symmetric", distance: 80 },
  ];
  const seam = { id: "s", type: "seam", preset: "split", stock: ["t"], cutters: ["c"] };
  test.each([
    [
      "a ridge",
      [
        { id: "c", type: "box", size: [20, 20, 20], anchor: "centre" },
        { id: "m", type: "move", bodies: ["c"], turn: 45, axis: "x" },
        { id: "n", type: "move", bodies: ["c"], by: [40, 0, 10 * Math.SQRT2] },
      ],
    ],
    ["a bar that lies on it", [{ id: "c", type: "cylinder", diameter: 10, height: 20, axis: "x", at: [40, 0, 5] }]],
    ["a ball", [{ id: "c", type: "sphere", diameter: 10, at: [40, 0, 5] }]],
  ])("%s", (_, cutter) => {
    expect(build(jobOf([...flat, ...cutter, seam])).step("s").error).toMatchObject({ code: "cutter-misses" });
  });
});
