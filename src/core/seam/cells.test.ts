import { describe, expect, test } from "vitest";
import type { Vec3 } from "../kernel";
import { Random } from "../testing/trust/random";
import { cellsOfPlanes } from "./cells";

const box = { min: [-40, -40, -40], max: [40, 40, 40] } as const;
const AXES: Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
const shuffled = <T>(list: readonly T[], random: Random): T[] =>
  list
    .map((one) => ({ one, by: random.between(0, 1) }))
    .sort((a, b) => a.by - b.by)
    .map(({ one }) => one);

describe("into how many parts planes divide a box", () => {
  // n planes in general position that all cross in it: (n³ + 5n + 6) / 6 (Steiner 1826; OEIS A000125).
  test.each([0, 1, 2, 3, 5, 8, 20])("%i anyhow", (n) => {
    const random = new Random(90 + n);
    const any = () => random.between(-1, 1);
    const planes = Array.from({ length: n }, () => ({
      normal: [any(), any(), any()] as const,
      origin: [5 * any(), 5 * any(), 5 * any()] as const,
    }));
    const wide = { min: [-1e4, -1e4, -1e4], max: [1e4, 1e4, 1e4] } as const;
    expect(cellsOfPlanes(planes, wide)).toBe((n ** 3 + 5 * n + 6) / 6);
  });

  test.each([1, 2, 6, 21])(
    "three families of %i: (k + 1)³, in any order, some of them twice, some turned round",
    (k) => {
      const random = new Random(k);
      const planes = AXES.flatMap((normal) =>
        Array.from({ length: k }, (_, i) => {
          const origin = normal.map((x) => x * (-35 + 70 * ((i + 0.5) / k))) as unknown as Vec3;
          return { normal: random.chance(0.5) ? (normal.map((x) => -x) as unknown as Vec3) : normal, origin };
        }),
      );
      expect(cellsOfPlanes(shuffled([...planes, ...planes.slice(0, k)], random), box)).toBe((k + 1) ** 3);
    },
  );

  test("n through one line: 2 n; and with one across it: twice that", () => {
    const pencil = Array.from({ length: 17 }, (_, i) => {
      const turn = (Math.PI * i) / 17 + 0.1;
      return { normal: [Math.cos(turn), Math.sin(turn), 0] as const, origin: [3, -7, 0] as const };
    });
    // The line is moved along, so that the planes' own places say nothing.
    const moved = pencil.map(({ normal }, i) => ({
      normal,
      origin: [3 - normal[1] * i, -7 + normal[0] * i, 2 * i] as const,
    }));
    for (const planes of [pencil, moved]) {
      expect(cellsOfPlanes(planes, box)).toBe(34);
      expect(cellsOfPlanes([...planes, { normal: [0, 0, 1], origin: [0, 0, 5] }], box)).toBe(68);
    }
  });

  test("n through one place: n² − n + 2, when no three have a line in common", () => {
    const random = new Random(5);
    for (const n of [3, 4, 7, 12]) {
      const planes = Array.from({ length: n }, () => ({
        normal: [random.between(-1, 1), random.between(-1, 1), random.between(-1, 1)] as const,
        origin: [4, 5, 6] as const,
      }));
      expect(cellsOfPlanes(planes, box)).toBe(n * n - n + 2);
    }
  });

  test("what passes by, or lies in its skin, adds nothing; it stops when there are enough", () => {
    expect(cellsOfPlanes([{ normal: [1, 1, 0], origin: [60, 60, 0] }], box)).toBe(1);
    expect(cellsOfPlanes([{ normal: [1, 0, 0], origin: [40, 3, 2] }], box)).toBe(1);
    // Two that cross outside of it are as good as parallel.
    const apart = [
      { normal: [1, 0, 0], origin: [0, 0, 0] },
      { normal: [1, 0.1, 0], origin: [20, 0, 0] },
    ] as const;
    expect(cellsOfPlanes(apart, box)).toBe(3);
    const many = Array.from({ length: 60 }, (_, i) => ({ normal: [1, 0, 0] as const, origin: [i / 2, 0, 0] as const }));
    expect(cellsOfPlanes(many, box, 10)).toBe(11);
  });
});
