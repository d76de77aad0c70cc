import { beforeAll, describe, expect, test } from "vitest";
import { freePieces } from "../evaluate";
import { contains, innerPoint, volumeOf } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { build, jobOf } from "../testing/harness";
import { Random } from "../testing/trust/random";

beforeAll(loadNodeKernel);

/** Splits a block by planes and looks over every piece: they fill the block, and each has a point that no other has. */
function pieces(size: number, planes: readonly object[]): number {
  const named = planes.map((plane, i) => ({ id: `p${i}`, type: "workplane", ...plane }));
  const built = build(
    jobOf([
      { id: "b", type: "box", size: [size, size, size], anchor: "centre" },
      ...named,
      { id: "s", type: "seam", stock: ["b"], cutters: named.map(({ id }) => id) },
    ] as never),
    { pieces: "s" },
  );
  expect(built.step("s").state).toBe("good");
  const found = built.pieces!;
  const whole = found.reduce((sum, { shape }) => sum + volumeOf(shape), 0);
  expect(Math.abs(whole / size ** 3 - 1)).toBeLessThan(1e-9);
  const places = found.map(({ shape }) => innerPoint(shape)!);
  // Each in its own, and (the sides of all planes told apart) in no other.
  for (const [i, { shape }] of found.entries()) expect(contains(shape, places[i]!)).toBe(true);
  expect(new Set(found.map(({ piece }) => piece.kind)).size).toBe(found.length);
  expect(new Set(found.map(({ piece }) => piece.key)).size).toBe(found.length);
  freePieces(found);
  return found.length;
}

describe("as many pieces as there have to be", () => {
  // n planes of which no three share a line and no four a point, all crossings inside the block: (n³ + 5n + 6) / 6 parts of
  // space (Steiner 1826; the cake numbers, OEIS A000125).
  test.each([1, 2, 3, 4, 5, 6, 7, 8])("%i planes anyhow: (n³ + 5n + 6) / 6", (n) => {
    const random = new Random(4100 + n);
    const planes = Array.from({ length: n }, () => ({
      base: "normal",
      normal: [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)],
      through: [random.between(-9, 9), random.between(-9, 9), random.between(-9, 9)],
    }));
    expect(pieces(100_000, planes)).toBe((n ** 3 + 5 * n + 6) / 6);
  });

  test.each([1, 2, 3, 4, 5, 6])("three families of %i: (k + 1)³", (k) => {
    const planes = ["xy", "yz", "zx"].flatMap((base) =>
      Array.from({ length: k }, (_, i) => ({ base, offset: -35 + 70 * ((i + 0.5) / k) })),
    );
    expect(pieces(80, planes)).toBe((k + 1) ** 3);
  });
});
