import { scoped } from "../library/scope";
import { type Shape, shapeKind, subshapes } from "../library/topology";
import { tessellate } from "../mesh/tessellate";
import { rayHit } from "../space/ray-hit";
import { add, cross, scale, sub, unit, type Vec3 } from "../space/vectors";
import { contains } from "./distance";
import { areaOf, volumeOf } from "./mass";
import { pointOnFace } from "./on-face";

/**
 * A point well inside a solid (or on a sheet): from the middles of its largest triangles straight into the material,
 * half-way to the next skin, the deepest of those tried; confirmed against the exact solid. Null when none is found.
 */
export function innerPoint(shape: Shape): Vec3 | null {
  if (shapeKind(shape) !== "solid")
    return scoped((scope) => {
      const faces = subshapes(scope, shape, "face");
      return faces.length === 0
        ? null
        : pointOnFace(faces.reduce((best, face) => (areaOf(face) > areaOf(best) ? face : best)));
    });
  const seenBy = (linear: number) =>
    deepPlaces(tessellate(shape, { linear, angular: 0.5 })).find((at) => contains(shape, at)) ?? null;
  // A lens, a lune: as triangles it has no inside unless they are finer than it is thick.
  return seenBy(COARSE) ?? seenBy(Math.min(COARSE, thickness(shape) / FINER));
}

/** mm: how near triangles are to the skin at first. */
const COARSE = 0.5;
/** How much finer than a body is thick they are, where they have to be. */
const FINER = 16;

/** How thick a body is, roughly, mm: a plate of its volume and skin. */
const thickness = (solid: Shape): number => (2 * volumeOf(solid)) / areaOf(solid);

/** A place well inside a solid, as its triangles show it: as near to inside as those are to its skin. Null when none is found. */
export const placeWithin = (mesh: Triangles): Vec3 | null => deepPlaces(mesh)[0] ?? null;

interface Triangles {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
}

/** Places half-way from the middles of the largest triangles, straight into the material, to the next skin: the deepest first. */
function deepPlaces({ positions, indices }: Triangles): Vec3[] {
  const corner = (i: number): Vec3 => [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!];
  const triangles: { a: Vec3; ab: Vec3; ac: Vec3; size: number; normal: Vec3 }[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    const a = corner(indices[t]!);
    const ab = sub(corner(indices[t + 1]!), a);
    const ac = sub(corner(indices[t + 2]!), a);
    const n = cross(ab, ac);
    triangles.push({ a, ab, ac, size: Math.hypot(...n), normal: unit(n) });
  }
  const candidates: { at: Vec3; depth: number }[] = [];
  for (const { a, ab, ac, normal } of [...triangles].sort((p, q) => q.size - p.size).slice(0, 12)) {
    const from = add(a, scale(add(ab, ac), 1 / 3));
    const into = scale(normal, -1);
    let depth = Number.POSITIVE_INFINITY;
    for (const triangle of triangles) {
      const t = rayHit(from, into, triangle);
      if (t !== null && t > 1e-6 && t < depth) depth = t;
    }
    if (Number.isFinite(depth)) candidates.push({ at: add(from, scale(into, depth / 2)), depth });
  }
  return candidates.sort((p, q) => q.depth - p.depth).map(({ at }) => at);
}
