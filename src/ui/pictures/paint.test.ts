import { describe, expect, it } from "vitest";
import { type Painted, pictureOf } from "./paint";

/** A square across the sight, `half` wide each way, pushed so far towards who looks. */
function square(half: number, towards: number, colour: string): Painted {
  // Square to the direction that the picture looks along.
  const right = [0.8, 0.6, 0];
  const up = [-0.3, 0.4, 0.866];
  const sight = [0.52, -0.69, 0.5];
  const corners = [
    [-half, -half],
    [half, -half],
    [half, half],
    [-half, half],
  ].flatMap(([u, v]) => [0, 1, 2].map((i) => u! * right[i]! + v! * up[i]! + towards * sight[i]!));
  return {
    mesh: {
      positions: new Float32Array(corners),
      normals: new Float32Array([0, 1, 2, 3].flatMap(() => sight)),
      indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
    },
    colour,
  };
}

const SIZE = 50;
const opaque = (pixels: Uint8ClampedArray) =>
  Array.from({ length: pixels.length / 4 }, (_, i) => pixels[4 * i + 3]! / 255).reduce((sum, one) => sum + one, 0);
const middle = (pixels: Uint8ClampedArray) => [...pixels.slice(4 * (25 * SIZE + 25), 4 * (25 * SIZE + 25) + 4)];

describe("small pictures", () => {
  it("fill 0.86 of their width, whatever the size of what is in them", () => {
    for (const half of [0.01, 3, 4000]) {
      const pixels = pictureOf([square(half, 0, "#336699")], SIZE);
      expect(opaque(pixels) / (SIZE * SIZE)).toBeCloseTo(0.86 ** 2, 1);
      expect(pixels.slice(0, 4)).toEqual(new Uint8ClampedArray(4));
      const [red, green, blue] = middle(pixels);
      expect(Math.abs(red! / blue! - 0x33 / 0x99)).toBeLessThan(0.02);
      expect(Math.abs(green! / blue! - 0x66 / 0x99)).toBeLessThan(0.02);
    }
  });

  it("show the nearest in front, in whichever order they come", () => {
    const [near, far] = [square(1, 5, "#ff0000"), square(4, -5, "#0000ff")];
    for (const bodies of [
      [near, far],
      [far, near],
    ]) {
      const [red, , blue] = middle(pictureOf(bodies, SIZE));
      expect(red).toBeGreaterThan(100);
      expect(blue).toBe(0);
    }
    const [red, , blue] = middle(pictureOf([square(1, -5, "#ff0000"), square(4, 5, "#0000ff")], SIZE));
    expect([red, blue! > 100]).toEqual([0, true]);
  });

  it("show what is thinner than a dot, and nothing where nothing is", () => {
    const thin = square(1000, 0, "#ffffff");
    // A strip so narrow that no dot's middle need be in it, from corner to corner.
    const strip = { ...thin, mesh: { ...thin.mesh, indices: new Uint32Array([0, 2, 2, 2, 0, 0]) } };
    expect(opaque(pictureOf([strip], SIZE))).toBeGreaterThan(0);
    expect(opaque(pictureOf([], SIZE))).toBe(0);
  });
});
