import { expect, test } from "vitest";
import { trianglesCross } from "./triangle-crossing";

const mesh = (...triangles: number[][]) => ({
  positions: triangles.flat(),
  indices: triangles.flat().flatMap((_, i) => (i % 3 === 0 ? [i / 3] : [])),
});

test("two triangles: through each other, beside, and with a corner in common", () => {
  const flat = [0, 0, 0, 10, 0, 0, 0, 10, 0];
  expect(trianglesCross(mesh(flat, [2, 2, -5, 2, 2, 5, 9, 9, 5]))).toBe(true);
  expect(trianglesCross(mesh(flat, [2, 2, 1, 2, 2, 5, 9, 9, 5]))).toBe(false);
  expect(trianglesCross(mesh(flat, [0, 0, 0, 2, 2, 5, 3, 1, -5]))).toBe(false);
  // It runs through the triangle's plane, past the triangle.
  expect(trianglesCross(mesh(flat, [8, 8, -5, 8, 8, 5, 20, 20, 5]))).toBe(false);
});

test("triangles side by side in one plane, whose sides lie in line, do not cross", () => {
  const strip = (from: number) => [
    34.375,
    from,
    0.1 * from,
    34.375,
    from + 0.06,
    0.1 * from + 0.11,
    35,
    from + 0.09,
    0.1,
  ];
  expect(trianglesCross(mesh(strip(0.7), strip(0.88)))).toBe(false);
});

/** A tube of radius r round a circle of radius R that climbs by `pitch` in a turn, one turn and a half long. */
function coil(R: number, r: number, pitch: number) {
  const [along, round] = [90, 24];
  const positions: number[] = [];
  const indices: number[] = [];
  for (let i = 0; i <= along; i++)
    for (let j = 0; j <= round; j++) {
      const [a, b] = [(3 * Math.PI * i) / along, (2 * Math.PI * j) / round];
      const out = R + r * Math.cos(b);
      positions.push(out * Math.cos(a), out * Math.sin(a), (pitch * a) / (2 * Math.PI) + r * Math.sin(b));
      if (i === along || j === round) continue;
      const at = i * (round + 1) + j;
      indices.push(at, at + round + 1, at + 1, at + 1, at + round + 1, at + round + 2);
    }
  return { positions, indices };
}

test("a coil crosses itself where it climbs by less than it is thick", () => {
  expect(trianglesCross(coil(20, 4, 8.4))).toBe(false);
  expect(trianglesCross(coil(20, 4, 7.6))).toBe(true);
});
