import { type Box3, BufferGeometry, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments } from "three";
import type { LengthUnit } from "@/core/units";

/** A field of the floor is at least so many pixels wide. */
const LEAST = 14;

/** Widths of fields that a workshop measures by, mm: from fine to coarse. */
export const FIELDS: Record<LengthUnit, readonly number[]> = {
  mm: [0.1, 0.5, 1, 5, 10, 50, 100, 500, 1000, 5000, 10_000],
  inch: [1 / 64, 1 / 16, 1 / 4, 1, 3, 12, 60, 120, 600].map((inches) => inches * 25.4),
};

/** The finest fields that can still be told apart. @param pixels that a millimetre takes up. */
export function fieldFor(steps: readonly number[], pixels: number): number {
  return steps.find((step) => step * pixels >= LEAST) ?? steps.at(-1)!;
}

/** At most so many lines each way: beyond, nobody counts fields. */
const MOST = 400;

/** A ruled floor at Z 0 that reaches past the part on all sides; the axes, and every fifth or tenth line, are drawn stronger. */
export function makeFloor({ min, max }: Box3, field: number, colour: string): Group {
  const group = new Group();
  const beyond = Math.max(max.x - min.x, max.y - min.y, max.z - min.z) * 0.6 + field * 4;
  const range = (low: number, high: number): [number, number] => {
    const from = Math.floor((low - beyond) / field);
    const to = Math.ceil((high + beyond) / field);
    const spare = Math.max(0, Math.ceil((to - from - MOST) / 2));
    return [from + spare, to - spare];
  };
  const [x1, x2] = range(min.x, max.x);
  const [y1, y2] = range(min.y, max.y);
  const lines: Record<"fine" | "strong" | "axis", number[]> = { fine: [], strong: [], axis: [] };
  const kindOf = (i: number) => (i === 0 ? "axis" : i % 10 === 0 ? "strong" : "fine");
  for (let i = x1; i <= x2; i++) lines[kindOf(i)].push(i * field, y1 * field, 0, i * field, y2 * field, 0);
  for (let i = y1; i <= y2; i++) lines[kindOf(i)].push(x1 * field, i * field, 0, x2 * field, i * field, 0);
  for (const [kind, opacity] of [
    ["fine", 0.1],
    ["strong", 0.2],
    ["axis", 0.42],
  ] as const) {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new Float32BufferAttribute(lines[kind], 3));
    const material = new LineBasicMaterial({ color: colour, transparent: true, opacity, depthWrite: false });
    const part = new LineSegments(geometry, material);
    part.renderOrder = -1;
    group.add(part);
  }
  return group;
}

export function disposeFloor(group: Group): void {
  for (const part of group.children as LineSegments<BufferGeometry, LineBasicMaterial>[]) {
    part.geometry.dispose();
    part.material.dispose();
  }
}
