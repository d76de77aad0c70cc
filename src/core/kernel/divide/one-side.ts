import { looseBoxOf } from "../facts/box";
import { distanceToPoint } from "../facts/distance";
import { faceCentre } from "../facts/mass";
import { planeOf } from "../facts/planes";
import { incidenceOf } from "../library/incidence";
import { facesOf, type Shape, shapeKind } from "../library/topology";
import { type Box, dot, sub, type Vec3 } from "../space/vectors";
import type { Cell, Fusion } from "./general-fuse";
import { reachesPast } from "./reaches-past";

/** mm: corners nearer to a plane than this, and twice what is noted of them, lie in it. */
const IN = 1e-5;

/**
 * Where a cell lies on both sides of a plane that reaches past the solid that the cell is part of: it ought to be two. Whatever its
 * faces are: a corner that is off the plane tells its side, and so does the middle of a face, which lies on the side that all of
 * the face lies on.
 */
export function onBothSides(args: readonly Shape[], { cells }: Fusion): Vec3 | null {
  const planes = args.flatMap((arg) => (isPlane(arg) ? [{ knife: arg, ...planeOf(facesOf(arg)[0]!)! }] : []));
  if (planes.length === 0) return null;
  const boxes = args.map((arg) => (shapeKind(arg) === "solid" ? looseBoxOf(arg) : null));
  for (const { knife, origin, normal } of planes) {
    const past = new Map<Box, boolean>();
    for (const cell of cells) {
      const box = cell.within.map((a) => boxes[a]).find((own) => own !== null && own !== undefined);
      if (!box) continue;
      if (!past.has(box)) past.set(box, reachesPast(knife, box) && isThere(knife, box, origin, normal));
      const at = past.get(box) ? straddling(cell, origin, normal) : null;
      if (at) return at;
    }
  }
  return null;
}

/** Whether a face whose edges pass a box by goes through it: it may end before, and its plane go through alone. */
function isThere(knife: Shape, { min, max }: Box, origin: Vec3, normal: Vec3): boolean {
  for (let k = 0; k < 3; k++) {
    const [i, j] = [(k + 1) % 3, (k + 2) % 3];
    for (const u of [min[i]!, max[i]!])
      for (const v of [min[j]!, max[j]!]) {
        const start = [0, 0, 0];
        [start[i], start[j], start[k]] = [u, v, min[k]!];
        const from = start as unknown as Vec3;
        const share = normal[k] === 0 ? -1 : -dot(sub(from, origin), normal) / normal[k]! / (max[k]! - min[k]!);
        if (!(share >= 0 && share <= 1)) continue;
        const at = from.map((value, axis) => (axis === k ? value + share * (max[k]! - min[k]!) : value));
        return (distanceToPoint(knife, at as unknown as Vec3)?.gap ?? 1) < IN;
      }
  }
  return false;
}

function isPlane(arg: Shape): boolean {
  if (shapeKind(arg) === "solid") return false;
  const { faces } = incidenceOf(arg);
  return faces.length === 1 && faces[0]!.surface?.kind === "plane";
}

/** A place of a cell on the other side of a plane than the first that is off it; null where all are on one side. */
function straddling({ shape }: Cell, origin: Vec3, normal: Vec3): Vec3 | null {
  const structure = incidenceOf(shape);
  let side = 0;
  /** Which side a place is on; 0 in the plane. */
  const sideOf = (at: Vec3, within: number): number => {
    const height = dot(sub(at, origin), normal);
    return Math.abs(height) <= within ? 0 : Math.sign(height);
  };
  const told = new Set<number>();
  for (const { at, tolerance, faces } of structure.vertices) {
    const own = sideOf(at, IN + 2 * tolerance);
    if (own === 0) continue;
    if (side !== 0 && own !== side) return at;
    side = own;
    for (const face of faces) told.add(face);
  }
  // A face whose corners all lie in the plane, or that has none, is told by its middle.
  for (const [place, face] of structure.faces.entries()) {
    if (!face.bounds || told.has(place)) continue;
    const middle = faceCentre(shape, place);
    const own = sideOf(middle, IN + 2 * roughness(face, structure));
    if (own === 0) continue;
    if (side !== 0 && own !== side) return middle;
    side = own;
  }
  return null;
}

/** How far the edges of a face may lie off it, mm. */
const roughness = (face: { wires: { edge: number }[][] }, { edges }: { edges: { tolerance: number }[] }): number =>
  face.wires.flat().reduce((most, { edge }) => Math.max(most, edges[edge]!.tolerance), 0);
