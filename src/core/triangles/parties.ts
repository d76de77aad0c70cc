import { has } from "../items/kinds";
import {
  boxOf,
  type Deflection,
  diagonal,
  type Mesh,
  type MeshStore,
  openPlaces,
  type Shape,
  viewDeflection,
} from "../kernel";
import type { Knife } from "../seam";
import type { Parties } from "../steps/evaluation";
import { divideRoughly, type RoughKnife, type RoughPiece } from "./divide";
import { crossesItself, type Skin, turnedRound } from "./skin";

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

/**
 * A knife as triangles that look to its front; null for one with a face that tells no sides apart, and for one that crosses itself: what is
 * within that and what without, one way round does not say.
 */
function bladeOf({ item, shape, turns = [] }: Knife, meshes: MeshStore, deflection: Deflection): RoughKnife | null {
  const { id } = item;
  if (has(item, "plane")) return { id, kind: "plane", origin: item.origin, normal: item.normal };
  const mesh = meshes.mesh(shape, deflection);
  if (has(item, "closed")) return { id, kind: "solid", skin: mesh };
  if (turns.includes(0)) return null;
  if (crossesItself(mesh)) return null;
  const skin = turns.includes(-1) ? withFacesTurned(mesh, turns) : mesh;
  return { id, kind: openPlaces(shape).length > 0 ? "sheet" : "closed-sheet", skin };
}

/** A mesh with the triangles of some faces turned round: those of which −1 is told. */
function withFacesTurned({ positions, indices, faceRanges }: Mesh, turns: readonly number[]): Skin {
  const over = new Uint8Array(indices.length / 3);
  turns.forEach((turn, face) => {
    const first = faceRanges[2 * face]! / 3;
    if (turn < 0) over.fill(1, first, first + faceRanges[2 * face + 1]! / 3);
  });
  return { positions, indices: turnedRound(indices, (triangle) => over[triangle] === 1) };
}
