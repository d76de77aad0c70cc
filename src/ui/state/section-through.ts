import type { Vec3 } from "@/core/kernel";
import type { BodyView } from "@/engine/contract";
import type { ViewSection } from "../viewport/drawn";

const AXES = ["y", "x", "z"] as const;
const INDEX = { x: 0, y: 1, z: 2 };

/**
 * A section through where two bodies are nearest, along the way from the one to the other: the gap lies in the cut. Where they meet, along the way
 * that a face looks there, or along its axis. Of the two halves that one stays whose cut is seen from where a part is looked at first: from
 * the right, the front and above.
 */
export function sectionThrough(
  [from, to]: readonly [readonly number[], readonly number[]],
  way: readonly number[] | null,
  bodies: readonly BodyView[],
): ViewSection {
  const across = from.map((value, k) => to[k]! - value);
  const along = Math.hypot(...across) > 1e-9 ? across : (way ?? [0, 0, 1]);
  const axis = AXES.reduce((best, next) =>
    Math.abs(along[INDEX[next]]!) < Math.abs(along[INDEX[best]]!) - 1e-9 ? next : best,
  );
  const k = INDEX[axis];
  const mm = (from[k]! + to[k]!) / 2;
  const boxes = bodies.flatMap(({ measures }) => measures.box ?? []);
  const low = Math.min(...boxes.map(({ min }) => (min as Vec3)[k]!));
  const high = Math.max(...boxes.map(({ max }) => (max as Vec3)[k]!));
  return { axis, at: high > low ? (mm - low) / (high - low) : 0.5, mm, flip: axis === "y" };
}
