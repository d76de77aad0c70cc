import { looseBoxOf } from "../facts/box";
import { leastGap } from "../facts/surface-gap";
import { surfaceRecordsOf } from "../facts/surfaces";
import { LeaningCones } from "../library/faults";
import { facesOf, type Shape } from "../library/topology";
import { triangulate } from "../mesh/tessellate";
import { boxesMeet, cross, diagonal, length, type Vec3 } from "../space/vectors";

/** mm: nearer than this, two surfaces are one. */
const ONE = 1e-6;
/** How far apart leaning cones have to be somewhere where both are, as a part of their size, for the library to find where they cross. */
const APART = 9e-3;
/** Sines between axes: less is no lean, more is never near all along. */
const LEAN = [1e-9, 0.1] as const;

/**
 * Refuses cones that lie nearly in each other and lean: where they cross, the library goes along both for minutes, and finds
 * nothing that adds up.
 * @throws LeaningCones
 */
export function refuseLeaningCones(args: readonly Shape[]): void {
  const cones = args.map((arg) =>
    surfaceRecordsOf(arg).flatMap((surface, place) => (surface?.kind === "cone" ? [{ surface, place }] : [])),
  );
  for (let a = 0; a < args.length; a++)
    for (let b = a + 1; b < args.length; b++)
      for (const p of cones[a]!)
        for (const q of cones[b]!) {
          const lean = length(cross(p.surface.axis, q.surface.axis));
          if (lean < LEAN[0] || lean > LEAN[1]) continue;
          const near = nearness({ shape: args[a]!, place: p.place }, { shape: args[b]!, place: q.place });
          if (!near || near.most < ONE) continue;
          throw new LeaningCones(near.at, near.most, Math.asin(lean));
        }
}

interface Conical {
  shape: Shape;
  place: number;
}

/** How far two faces are at most from each other's surfaces where both are; null where that is further than counts, or nowhere. */
function nearness(one: Conical, two: Conical): { most: number; at: Vec3 } | null {
  const faces = [one, two].map(({ shape, place }) => facesOf(shape)[place]!);
  const boxes = faces.map(looseBoxOf);
  const [a, b] = boxes;
  if (!a || !b || !boxesMeet(a, b, ONE)) return null;
  const limit = APART * Math.min(diagonal(a), diagonal(b));
  let far: { most: number; at: Vec3 } | null = null;
  for (const [i, { shape, place }] of [two, one].entries()) {
    const { positions } = triangulate(faces[i]!, [], { linear: limit, angular: ANGULAR });
    for (let v = 0; v < positions.length; v += 3) {
      const at: Vec3 = [positions[v]!, positions[v + 1]!, positions[v + 2]!];
      if (!boxesMeet(boxes[1 - i]!, { min: at, max: at }, limit)) continue;
      const most = leastGap(shape, [place], at);
      if (most > limit) return null;
      if (!far || most > far.most) far = { most, at };
    }
  }
  return far;
}

/** Radians between neighbouring triangles. */
const ANGULAR = 0.5;
