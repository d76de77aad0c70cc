import { beforeAll, describe, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { areaOf } from "../facts/mass";
import { isValid } from "../facts/measure";
import { loadNodeKernel } from "../library/node";
import { facesOf } from "../library/topology";
import { coversOf } from "./covers";

beforeAll(loadNodeKernel);

const last = (...steps: Record<string, unknown>[]) => buildSteps(...steps).bodies.at(-1)!;
const areas = (covers: NonNullable<ReturnType<typeof coversOf>>) =>
  covers.about.map((_, i) => areaOf(facesOf(covers.shape)[i]!)).sort((a, b) => a - b);
const block = { id: "b", type: "box", size: [60, 40, 20] };
const bore = { id: "c", type: "cylinder", diameter: 10, height: 60, at: [0, 0, -20] };
const bored = [
  block,
  bore,
  { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["c"], keepCutters: false },
];

describe("openings in a skin, closed along it", () => {
  test("a bore through flat faces: two discs, each on the face that it is in", () => {
    const body = last(...bored);
    const covers = coversOf(body.shape)!;
    expect(areas(covers)).toEqual([expect.closeTo(25 * Math.PI, 9), expect.closeTo(25 * Math.PI, 9)]);
    for (const face of facesOf(covers.shape)) expect(isValid(face)).toBe(true);
    expect(covers.about.map(([on]) => body.faces[on!]).sort()).toEqual(["b:side:z+", "b:side:z-"]);
  });

  test("a body without openings has none, however its faces are bounded", () => {
    for (const type of [
      block,
      { id: "t", type: "torus", diameter: 40, section: 10 },
      { id: "k", type: "sphere", diameter: 10 },
    ])
      expect(coversOf(last(type).shape)).toBeNull();
  });

  test("a bore square to a cylinder: what it takes out of the round skin, on both sides", () => {
    const body = last(
      { id: "b", type: "cylinder", diameter: 40, height: 60 },
      { id: "c", type: "cylinder", diameter: 10, height: 60, at: [0, 0, -30] },
      { id: "m", type: "move", bodies: ["c"], turn: 90, axis: "x", by: [0, 0, 30] },
      { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["m"], keepCutters: false },
    );
    const whole = areaOf(last({ id: "b", type: "cylinder", diameter: 40, height: 60 }).shape);
    const covers = coversOf(body.shape)!;
    // One of the mouths lies over the line where the round face meets itself, and is closed in two parts.
    expect(covers.about.length).toBeGreaterThanOrEqual(2);
    const named = covers.about.map((about) => about.map((f) => body.faces[f]!));
    expect(new Set(named.map(String))).toEqual(new Set(["b:side,c:side"]));
    // With its covers the round face is what it was: only the bore's own wall is new.
    const wall = body.faces.findIndex((name) => name.startsWith("c:"));
    const rest = areaOf(body.shape) - areaOf(facesOf(body.shape)[wall]!);
    expect((rest + areaOf(covers.shape)) / whole).toBeCloseTo(1, 9);
  });

  // Turned about the ball's axis the mouth comes to lie over its seam, and not.
  test.each([0, 45, 90, 180, 200, 270, 359])("a bore out through a ball's side, %d° about", (turn) => {
    const body = last(
      { id: "b", type: "sphere", diameter: 40 },
      { id: "c", type: "cylinder", diameter: 10, height: 60 },
      { id: "m", type: "move", bodies: ["c"], turn: 90, axis: "y" },
      { id: "n", type: "move", bodies: ["m"], turn, axis: "z" },
      { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["n"], keepCutters: false },
    );
    const covers = coversOf(body.shape)!;
    // A cap of a ball: 2πRh, h = R − √(R² − r²).
    const cap = 2 * Math.PI * 20 * (20 - Math.sqrt(400 - 25));
    expect(areaOf(covers.shape) / cap).toBeCloseTo(1, 9);
    expect(covers.about.every(([on]) => body.faces[on!]!.startsWith("b:"))).toBe(true);
  });

  test("an open sheet: its flat rings", () => {
    const body = last(
      {
        id: "k",
        type: "sketch",
        on: "xy",
        entities: [
          { id: "o", type: "point", x: 0, y: 0 },
          { id: "c", type: "circle", centre: "o", radius: 10 },
        ],
      },
      { id: "e", type: "extrude", sketch: ["k"], distance: 20, as: "sheet" },
    );
    const covers = coversOf(body.shape)!;
    expect(areas(covers)).toEqual([expect.closeTo(100 * Math.PI, 9), expect.closeTo(100 * Math.PI, 9)]);
  });
});
