import { describe, expect, test } from "vitest";
import type { ItemView } from "@/engine/contract";
import { TINTS } from "../viewport/palette";
import { tintOf } from "./tints";

const item = (id: string, kind: ItemView["kind"]) => ({ id, kind }) as ItemView;

/** Linear light of a colour's channels, 0 to 1. IEC 61966-2-1 (sRGB). */
const linear = (hex: string) =>
  [1, 3, 5].map((at) => {
    const c = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];

/** How a person without one kind of cone sees it: matrices of Machado, Oliveira and Fernandes (2009), severity 1; written from memory. */
const BLIND: Record<string, readonly (readonly [number, number, number])[]> = {
  protan: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deutan: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  none: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
};

/** CIE L*a*b* of linear light, white D65. */
function lab([r, g, b]: readonly number[]): [number, number, number] {
  const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : (24389 / 27 / 116) * t + 16 / 116);
  const x = f((0.4124 * r! + 0.3576 * g! + 0.1805 * b!) / 0.95047);
  const y = f(0.2126 * r! + 0.7152 * g! + 0.0722 * b!);
  const z = f((0.0193 * r! + 0.1192 * g! + 0.9505 * b!) / 1.08883);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

describe("tints of bodies that nobody coloured", () => {
  test("bodies side by side differ; what is no body takes none; many begin again", () => {
    const items = [
      item("p", "workplane"),
      ...Array.from({ length: 8 }, (_, i) => item(`b${i}`, i % 2 ? "sheet" : "solid")),
    ];
    const tints = Array.from({ length: 8 }, (_, i) => tintOf(`b${i}`, items, false));
    expect(tints[0]).toBe(TINTS.light[0]);
    for (let i = 1; i < 8; i++) expect(tints[i]).not.toBe(tints[i - 1]);
    expect(tints[6]).toBe(tints[0]);
  });

  test.each(["light", "dark"] as const)(
    "%s: told apart by every kind of colour vision (CIE76 of at least 8)",
    (theme) => {
      for (const matrix of Object.values(BLIND)) {
        const seen = TINTS[theme].map((hex) => {
          const c = linear(hex);
          return lab(matrix.map((row) => Math.max(0, row[0] * c[0] + row[1] * c[1] + row[2] * c[2])));
        });
        for (const [i, a] of seen.entries())
          for (const b of seen.slice(i + 1))
            expect(Math.hypot(...a.map((value, k) => value - b[k]!))).toBeGreaterThan(8);
      }
    },
  );
});
