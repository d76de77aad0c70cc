import { has } from "../items/kinds";
import { boxOf, type Deflection, diagonal, type MeshStore, openPlaces, type Shape, viewDeflection } from "../kernel";
import type { Knife } from "../seam";
import type { Parties } from "../steps/evaluation";
import { divideRoughly, type RoughKnife, type RoughPiece } from "./divide";
import { turnedOver } from "./skin";

/** What a step divides, divided as triangles. @returns it, and how far the triangles may lie from what they stand for, mm; null where it cannot be had. */
export function roughlyDivided(
  { stock, knives, shared }: Parties,
  meshes: MeshStore,
): { pieces: RoughPiece[]; within: number } | null {
  const deflections = stock.map(({ shape }) => roughDeflection(shape));
  const within = Math.max(...deflections.map(({ linear }) => linear));
  // No knife is drawn more roughly than what it divides: a plane or a sheet may be far larger.
  const finest = deflections.reduce((fine, one) => (one.linear < fine.linear ? one : fine));
  const blades: RoughKnife[] = [];
  for (const knife of knives) {
    const blade = bladeOf(knife, meshes, finest);
    if (!blade) return null;
    blades.push(blade);
  }
  const bodies = stock.map(({ id, shape }, i) => ({ id, skin: meshes.mesh(shape, deflections[i]!) }));
  const pieces = divideRoughly(bodies, blades, 2 * within, shared);
  return pieces && { pieces, within };
}

/** A third as fine as it is to be looked at: half as long to be divided. */
function roughDeflection(shape: Shape): Deflection {
  const box = boxOf(shape);
  const { linear } = viewDeflection(box ? diagonal(box) : 1);
  return { linear: 3 * linear, angular: 0.4 };
}

/** A knife as triangles; null for a sheet whose faces do not all tell front from back alike. */
function bladeOf({ item, shape, turns }: Knife, meshes: MeshStore, deflection: Deflection): RoughKnife | null {
  const { id } = item;
  if (has(item, "plane")) return { id, kind: "plane", origin: item.origin, normal: item.normal };
  const skin = meshes.mesh(shape, deflection);
  if (has(item, "closed")) return { id, kind: "solid", skin };
  const [turn = 1, ...others] = turns ?? [];
  if (turn === 0 || others.some((other) => other !== turn)) return null;
  const way = turn < 0 ? -1 : 1;
  if (openPlaces(shape).length > 0) return { id, kind: "sheet", skin, turn: way };
  return { id, kind: "closed-sheet", skin: way < 0 ? turnedOver(skin) : skin };
}
