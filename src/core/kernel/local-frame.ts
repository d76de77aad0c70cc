import { incidenceOf } from "./incidence";
import { surfaceCentre } from "./mass";
import type { Shape } from "./topology";
import { cross, dot, sub, type Vec3 } from "./vectors";

/** A place to stand and three directions that move and turn with a body. */
export interface LocalFrame {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

/**
 * A frame that goes where a body goes: the middle of its skin, and the directions of the first of its faces, in order
 * of `names`, whose surface has directions of its own. A body of free surfaces only keeps the world's directions.
 */
export function localFrame(shape: Shape, names: readonly string[]): LocalFrame {
  const { faces } = incidenceOf(shape);
  const order = faces.map((_, place) => place).sort((a, b) => (names[a]! < names[b]! ? -1 : 1));
  for (const place of order) {
    const { surface } = faces[place]!;
    if (!surface || !("axis" in surface)) continue;
    return { origin: surfaceCentre(shape), x: surface.x, y: cross(surface.axis, surface.x), z: surface.axis };
  }
  return { origin: surfaceCentre(shape), x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
}

/** A point as seen from a frame, mm. */
export function inFrame({ origin, x, y, z }: LocalFrame, at: Vec3): Vec3 {
  const away = sub(at, origin);
  return [dot(away, x), dot(away, y), dot(away, z)];
}
