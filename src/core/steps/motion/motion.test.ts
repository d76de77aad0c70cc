import { beforeAll, describe, expect, test } from "vitest";
import type { Body } from "../../items";
import { allFaceFacts, facesOf, nearest } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const straight = (x: number, y: number, z: number) => ({ id: `s${x}${y}${z}`, how: "straight", by: [x, y, z] });
const turn = (degrees: number, more: Step = {}) => ({ id: `t${degrees}`, how: "turn", turn: degrees, ...more });
const tube: Step[] = [
  { id: "o", type: "cylinder", diameter: 60, height: 60 },
  { id: "i", type: "cylinder", diameter: 50, height: 60 },
  { id: "tube", type: "seam", preset: "subtract", stock: ["o"], cutters: ["i"], keepCutters: false },
];
const square: Step = { id: "p", type: "box", name: "Pin", size: [30, 10, 10], at: [30, 0, 55], anchor: "base" };
const round: Step = { id: "p", type: "cylinder", name: "Pin", diameter: 10, height: 30, axis: "x", at: [15, 0, 60] };
/** In from above, and round: a locking slot. */
const lock = (more: Step = {}): Step => ({
  id: "m",
  type: "motion",
  body: ["p"],
  moves: [straight(0, 0, -25), turn(45)],
  into: "cut",
  targets: ["tube"],
  ...more,
});

/** The flat faces of a body that look a way, as the middles of their planes say: by place. */
const flats = (body: Body, way: number[]) =>
  allFaceFacts(body.shape).flatMap(({ kind, direction }, f) =>
    kind === "plane" && direction && direction.every((value, k) => Math.abs(value - way[k]!) < 1e-9) ? [f] : [],
  );
const between = (body: Body, one: number, other: number) =>
  nearest(facesOf(body.shape)[one]!, facesOf(body.shape)[other]!)!.gap;

describe("a locking slot in a tube: in, and round", () => {
  test("for a square pin it is as wide as the pin in both runs", () => {
    const built = buildSteps(...tube, square, lock());
    expect(built.step("m").error?.message).toBeUndefined();
    const cut = built.bodies.find(({ id }) => id.startsWith("m:"))!;
    // The walls of the run down look along Y at each other; floor and roof of the run round look along Z.
    const [left, right] = [flats(cut, [0, 1, 0]), flats(cut, [0, -1, 0])];
    expect(left.length * right.length).toBeGreaterThan(0);
    expect(Math.min(...left.flatMap((a) => right.map((b) => between(cut, a, b))))).toBeCloseTo(10, 6);
    const floors = flats(cut, [0, 0, 1]).filter((f) => Math.abs(allFaceFacts(cut.shape)[f]!.centre[2] - 30) < 1e-6);
    const roofs = flats(cut, [0, 0, -1]).filter((f) => Math.abs(allFaceFacts(cut.shape)[f]!.centre[2] - 40) < 1e-6);
    expect([floors.length, roofs.length]).toEqual([1, 1]);
    expect(between(cut, floors[0]!, roofs[0]!)).toBeCloseTo(10, 6);
    // The pin itself stays where it is.
    expect(built.named("Pin").id).toBe("p:block");
  });

  test("for a round pin down it is as wide as the pin; round, across its own axis, it is refused with the face", () => {
    const down = buildSteps(...tube, round, lock({ moves: [straight(0, 0, -25)] }));
    expect(down.step("m").error?.message).toBeUndefined();
    const cut = down.bodies.find(({ id }) => id.startsWith("m:"))!;
    const [left, right] = [flats(cut, [0, 1, 0]), flats(cut, [0, -1, 0])];
    expect(Math.min(...left.flatMap((a) => right.map((b) => between(cut, a, b))))).toBeCloseTo(10, 6);
    const { error } = buildSteps(...tube, round, lock()).step("m");
    expect(error!.message).toMatch(/has no exact form/);
    expect(error!.faces).toEqual([{ body: "p:cylinder", face: "p:side" }]);
  });

  test("with a gap, which is measured", () => {
    const built = buildSteps(...tube, square, lock({ intoGap: 0.25 }));
    expect(built.step("m").error?.message).toBeUndefined();
    const cut = built.bodies.find(({ id }) => id.startsWith("m:"))!;
    const [left, right] = [flats(cut, [0, 1, 0]), flats(cut, [0, -1, 0])];
    expect(Math.min(...left.flatMap((a) => right.map((b) => between(cut, a, b))))).toBeCloseTo(10.5, 6);
    expect(built.step("m").told?.[0]?.message).toContain("0.25 mm");
  });
});

test("as a body of its own, about the axis of a round face", () => {
  const bore: Step = { id: "b", type: "cylinder", diameter: 10, height: 5, at: [20, 0, 0] };
  const lever: Step = { id: "p", type: "box", size: [40, 10, 5], at: [40, 0, 0], anchor: "base" };
  const built = buildSteps(bore, lever, {
    id: "m",
    type: "motion",
    body: ["p"],
    moves: [turn(360, { about: "face" })],
    axis: [{ body: "b", face: "b:side" }],
  });
  expect(built.step("m").error?.message).toBeUndefined();
  const room = built.reports.find(({ id }) => id === "m:room")!;
  // From the axis at X 20 the lever, X 20 to 60, reaches to its far corners.
  expect(room.volume! / (Math.PI * (40 ** 2 + 5 ** 2) * 5)).toBeCloseTo(1, 6);
  expect(room.name).toBe("Block on its way");
});

describe("what cannot be done is told", () => {
  const said = (...steps: Step[]) => buildSteps(...steps).step("m").error;
  test.each<[string, Step[], RegExp]>([
    ["nothing that moves", [{ id: "m", type: "motion" }], /Pick the solid that moves/],
    ["no move", [square, { id: "m", type: "motion", body: ["p"], moves: [] }], /Add a move/],
    [
      "moves of length 0",
      [square, { id: "m", type: "motion", body: ["p"], moves: [straight(0, 0, 0), turn(0)] }],
      /Nothing moves: each move is of length 0/,
    ],
    [
      "a ring sideways",
      [
        { id: "p", type: "torus" },
        { id: "m", type: "motion", body: ["p"], moves: [straight(9, 0, 0)] },
      ],
      /has no exact form/,
    ],
    [
      "an axis 100 m away",
      [square, { id: "m", type: "motion", body: ["p"], moves: [turn(90, { through: [100_000, 0, 0] })] }],
      /an axis as far away/,
    ],
    [
      "itself",
      [square, { id: "m", type: "motion", body: ["p"], moves: [straight(9, 0, 0)], into: "cut", targets: ["p"] }],
      /cannot be cut by its own moves/,
    ],
    [
      "a turn about a face that is not picked, or has no axis",
      [square, { id: "m", type: "motion", body: ["p"], moves: [turn(90, { about: "face" })] }],
      /Pick the round face/,
    ],
    [
      "a flat face to turn about",
      [
        square,
        {
          id: "m",
          type: "motion",
          body: ["p"],
          moves: [turn(90, { about: "face" })],
          axis: [{ body: "p", face: "p:side:z+" }],
        },
      ],
      /has no axis/,
    ],
  ])("%s", (_, steps, words) => {
    expect(said(...steps)!.message).toMatch(words);
  });
});
