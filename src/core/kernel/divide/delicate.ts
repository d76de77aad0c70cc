import type { SurfaceRecord } from "../binary";
import { looseBoxOf } from "../facts/box";
import { surfaceRecordsOf } from "../facts/surfaces";
import { incidenceOf } from "../library/incidence";
import { facesOf, type Shape } from "../library/topology";
import { boxesMeet, cross, dot, length, scale, sub, type Vec3 } from "../space/vectors";

/** How near to tangent or coincident two surfaces are, as a part of their size, for the library to be doubted. */
const NEAR = 2e-3;
/** How near to parallel, as a sine. */
const PARALLEL = 2e-2;

/**
 * Whether faces of two arguments lie so to each other that the library has been seen to divide them wrongly without a word:
 * tangent, coincident but for a little, nearly parallel, or on surfaces that it only follows step by step (rings, cones,
 * free surfaces). It is told from the surfaces alone, so it may be said where the faces do not meet: doubt costs time only.
 */
export function isDelicate(args: readonly Shape[]): boolean {
  const faces = args.map((arg) => surfaceRecordsOf(arg).map((surface) => ({ surface, rank: rankOf(surface) })));
  const boxes = args.map((arg) => looseBoxOf(arg));
  for (let a = 0; a < args.length; a++)
    for (let b = a + 1; b < args.length; b++) {
      const [one, two] = [boxes[a], boxes[b]];
      if (!one || !two || !boxesMeet(one, two, 1e-6)) continue;
      for (const [i, p] of faces[a]!.entries())
        for (const [j, q] of faces[b]!.entries())
          if (isDelicatePair(p, q) && mayMeet(facesOf(args[a]!)[i]!, facesOf(args[b]!)[j]!)) return true;
    }
  return false;
}

/** Whether two faces may meet: their boxes do. */
function mayMeet(one: Shape, two: Shape): boolean {
  const [a, b] = [looseBoxOf(one), looseBoxOf(two)];
  return !a || !b || boxesMeet(a, b, ROOM);
}

/** mm between boxes of faces that may still touch. */
const ROOM = 1e-3;

const RANKS: Partial<Record<SurfaceRecord["kind"], number>> = { plane: 0, cylinder: 1, sphere: 2 };
const rankOf = (surface: SurfaceRecord | null) => (surface && RANKS[surface.kind]) ?? -1;

interface Ranked {
  surface: SurfaceRecord | null;
  /** Planes before cylinders before spheres; less than 0 for all else. */
  rank: number;
}

function isDelicatePair({ surface: a, rank: of }: Ranked, { surface: b, rank: to }: Ranked): boolean {
  if (!a || !b) return true;
  if (of < 0 || to < 0)
    return a.kind !== "plane" && b.kind !== "plane"
      ? true
      : isFree(a) || isFree(b) || a.kind === "torus" || b.kind === "torus";
  const low = of <= to ? a : b;
  const high = of <= to ? b : a;
  if (!("axis" in low) || !("axis" in high)) return true;
  const away = sub(high.at, low.at);
  if (low.kind === "plane") {
    const height = dot(away, low.axis);
    if (high.kind === "plane") {
      const lean = length(cross(low.axis, high.axis));
      // Planes that are the same are the library's daily bread; those that nearly are, are not.
      return lean < PARALLEL && (lean > 1e-9 || (Math.abs(height) > 1e-7 && Math.abs(height) < 1e-2));
    }
    const radius = radiusOf(high);
    if (high.kind === "sphere") return near(Math.abs(height), radius, radius);
    const lean = Math.abs(dot(low.axis, high.axis));
    return lean < PARALLEL && (lean > 1e-9 || near(Math.abs(height), radius, radius));
  }
  const [r, s] = [radiusOf(low), radiusOf(high)];
  const size = Math.max(r, s);
  if (high.kind === "sphere") {
    const apart = low.kind === "sphere" ? length(away) : length(cross(away, low.axis));
    return apart < NEAR * size || near(apart, r + s, size) || near(apart, Math.abs(r - s), size);
  }
  const lean = length(cross(low.axis, high.axis));
  if (lean < PARALLEL) {
    const apart = length(cross(away, low.axis));
    return lean > 1e-9 || near(apart, r + s, size) || near(apart, Math.abs(r - s), size);
  }
  const apart = Math.abs(dot(away, scale(cross(low.axis, high.axis), 1 / lean)));
  return near(apart, Math.abs(r - s), size) || near(apart, r + s, size);
}

const isFree = (surface: SurfaceRecord) => !("axis" in surface);

const radiusOf = (surface: SurfaceRecord) => ("radius" in surface ? surface.radius : 0);

const near = (a: number, b: number, size: number) => Math.abs(a - b) < NEAR * size;

/** A unit vector that no drawing has. */
const ANY_WAY: Vec3 = [0.4267, 0.3184, Math.sqrt(1 - 0.4267 ** 2 - 0.3184 ** 2)];

/**
 * A turn about its own axis that leaves a body as it is, where it is one that was turned round an axis as a whole: only where
 * the library begins to go round it moves. Null for any other body.
 */
export function ownTurn(shape: Shape): { at: Vec3; axis: Vec3 } | null {
  const { faces, edges } = incidenceOf(shape);
  const [only, ...more] = faces;
  // A whole ball may be turned any way: its poles move, too.
  if (only?.surface?.kind === "sphere" && more.length === 0) return { at: only.surface.at, axis: ANY_WAY };
  let found: { at: Vec3; axis: Vec3 } | null = null;
  for (const { surface } of faces) {
    if (!surface || !("axis" in surface) || surface.kind === "plane") continue;
    found ??= { at: surface.at, axis: surface.axis };
    const off = length(cross(sub(surface.at, found.at), found.axis));
    const lean = length(cross(surface.axis, found.axis));
    if (surface.kind === "sphere" ? off > 1e-9 : off > 1e-9 || lean > 1e-12) return null;
  }
  if (!found) return null;
  const { at, axis } = found;
  for (const { surface } of faces) {
    if (!surface || !("axis" in surface)) return null;
    if (surface.kind === "plane" && length(cross(surface.axis, axis)) > 1e-12) return null;
  }
  // Whole circles round the axis, and seams in planes through it: anything else would be moved.
  for (const edge of edges) {
    const run = edge.curve;
    if (edge.point || !run) continue;
    const { curve } = run;
    if (edge.uses === 2 && edge.faces.length === 1) continue;
    if (!("major" in curve)) return null;
    const whole = Math.abs(run.to - run.from - 2 * Math.PI) < 1e-9 && curve.major === curve.minor;
    if (!whole || length(cross(sub(curve.at as unknown as Vec3, at), axis)) > 1e-9) return null;
  }
  return { at, axis };
}
