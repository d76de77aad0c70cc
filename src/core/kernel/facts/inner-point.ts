import { scoped } from "../library/scope";
import { type Shape, shapeKind, subshapes } from "../library/topology";
import { triangulate } from "../mesh/tessellate";
import { nearestHit, type Triangles } from "../space/nearest-hit";
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
    deepPlaces(triangulate(shape, [], { linear, angular: 0.5 })).find((at) => contains(shape, at)) ?? null;
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

/** How many of a mesh's triangles are looked into the body from: the largest. */
const LOOKS = 12;

/** Places half-way from the middles of the largest triangles, straight into the material, to the next skin: the deepest first. */
export function deepPlaces(mesh: Triangles): Vec3[] {
  const { positions, indices } = mesh;
  const corner = (i: number): Vec3 => [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!];
  const candidates = largest(mesh).flatMap((t) => {
    const [a, b, c] = [corner(indices[t]!), corner(indices[t + 1]!), corner(indices[t + 2]!)];
    const [ab, ac] = [sub(b, a), sub(c, a)];
    const from = add(a, scale(add(ab, ac), 1 / 3));
    const into = scale(unit(cross(ab, ac)), -1);
    const depth = nearestHit(mesh, from, into, 1e-6);
    return Number.isFinite(depth) ? [{ at: add(from, scale(into, depth / 2)), depth }] : [];
  });
  return candidates.sort((p, q) => q.depth - p.depth).map(({ at }) => at);
}

/** Where the largest triangles begin among the corners of all, the largest first. */
function largest({ positions, indices }: Triangles): number[] {
  const found: { t: number; size: number }[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [3 * indices[t]!, 3 * indices[t + 1]!, 3 * indices[t + 2]!];
    const ux = positions[b]! - positions[a]!;
    const uy = positions[b + 1]! - positions[a + 1]!;
    const uz = positions[b + 2]! - positions[a + 2]!;
    const vx = positions[c]! - positions[a]!;
    const vy = positions[c + 1]! - positions[a + 1]!;
    const vz = positions[c + 2]! - positions[a + 2]!;
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const size = x * x + y * y + z * z;
    if (found.length === LOOKS && size <= found.at(-1)!.size) continue;
    if (found.length === LOOKS) found.pop();
    const before = found.findIndex((one) => one.size < size);
    found.splice(before < 0 ? found.length : before, 0, { t, size });
  }
  return found.map(({ t }) => t);
}
