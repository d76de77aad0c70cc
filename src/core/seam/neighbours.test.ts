import { beforeAll, describe, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { seamLength } from "../items";
import type { Shape } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";

beforeAll(loadNodeKernel);

const grid = (stock: readonly object[], bases: readonly string[], k: number) => {
  const planes = bases.flatMap((base) =>
    Array.from({ length: k }, (_, i) => ({
      id: `${base}${i}`,
      type: "workplane",
      base,
      offset: -35 + 70 * ((i + 0.5) / k),
    })),
  );
  return [...stock, ...planes, { id: "s", type: "seam", stock: ["b"], cutters: planes.map(({ id }) => id) }];
};

function piecesOf(steps: readonly object[]) {
  const built = build(jobOf(steps as never), { pieces: "s" });
  expect(built.step("s").state).toBe("good");
  return built.pieces!;
}

describe("which pieces were cut from one another", () => {
  // In a grid of (k + 1)³ cells every plane of a family parts (k + 1)² pairs, and a line through a cell meets two of each family.
  test.each([1, 2, 3])("of a block cut three ways by %i: 3 k (k + 1)² pairs, each told by both", (k) => {
    const block = { id: "b", type: "box", size: [80, 80, 80], anchor: "centre" };
    const pieces = piecesOf(grid([block], ["xy", "yz", "zx"], k));
    const pairs = pieces.flatMap(({ piece, neighbours }) => neighbours.map((other) => [piece.index, other] as const));
    expect(pairs.length).toBe(2 * 3 * k * (k + 1) ** 2);
    for (const [a, b] of pairs) expect(pieces[b]!.neighbours).toContain(a);
    // Each differs from a neighbour by the side of one plane.
    for (const [a, b] of pairs) {
      const [one, other] = [pieces[a]!.piece.sides, pieces[b]!.piece.sides];
      expect(Object.keys(one).filter((id) => one[id] !== other[id]).length).toBe(1);
    }
    freePieces(pieces);
  });

  test.each([1, 2])("of a sheet cut two ways by %i: 2 k (k + 1) pairs", (k) => {
    const under = { id: "a", type: "box", size: [80, 80, 80], anchor: "centre" };
    const sheet = { id: "b", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: 2 };
    const pieces = piecesOf(grid([under, sheet], ["yz", "zx"], k));
    expect(pieces.length).toBe((k + 1) ** 2);
    expect(pieces.flatMap(({ neighbours }) => neighbours).length).toBe(2 * 2 * k * (k + 1));
    freePieces(pieces);
  });

  test("two blocks that touch are not cut from one another", () => {
    const pieces = piecesOf([
      { id: "b", type: "box", size: [10, 10, 10], at: [0, 0, 0] },
      { id: "c", type: "box", size: [10, 10, 10], at: [10, 0, 0] },
      { id: "p", type: "workplane", base: "xy", offset: 5 },
      { id: "s", type: "seam", stock: ["b", "c"], cutters: ["p"] },
    ]);
    expect(pieces.map(({ neighbours }) => neighbours)).toEqual([[1], [0], [3], [2]]);
    freePieces(pieces);
  });
});

describe("how long seam lines are", () => {
  test("of a bar cut across: its girth, twice π r of each half of a ball", () => {
    const round = (stock: object) =>
      piecesOf([stock, { id: "p", type: "workplane", base: "xy", offset: 3 }, seam]).map(({ piece, shape }) =>
        seamLength(shape as Shape, piece.faces),
      );
    const seam = { id: "s", type: "seam", stock: ["b"], cutters: ["p"] };
    for (const length of round({ id: "b", type: "box", size: [12, 7, 30], anchor: "centre" }))
      expect(length).toBeCloseTo(2 * (12 + 7), 9);
    for (const length of round({ id: "b", type: "sphere", diameter: 20 }))
      expect(length).toBeCloseTo(2 * Math.PI * Math.sqrt(10 ** 2 - 3 ** 2), 9);
  });
});
