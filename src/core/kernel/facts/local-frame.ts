import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { cross, dot, sub, type Vec3 } from "../space/vectors";
import { surfaceCentre } from "./mass";

/** A place to stand and three directions that move and turn with a body. */
export interface LocalFrame {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

/** A frame that goes with a face of a body, by the face's name. */
export interface NamedFrame extends LocalFrame {
  face: string;
}

/** Of so many faces at most the frames are given. */
const FRAMES = 24;

/**
 * Frames that go where a body goes: in the middle of its skin, with the directions of each of its faces, in order of
 * `names`, whose surface has directions of its own. A body of free surfaces only keeps the world's directions.
 */
export function localFrames(shape: Shape, names: readonly string[]): NamedFrame[] {
  const { faces } = incidenceOf(shape);
  const origin = surfaceCentre(shape);
  const order = faces.map((_, place) => place).sort((a, b) => (names[a]! < names[b]! ? -1 : 1));
  const frames = order.flatMap((place): NamedFrame[] => {
    const { surface } = faces[place]!;
    if (!surface || !("axis" in surface)) return [];
    const { x, axis } = surface;
    return [{ face: names[place]!, origin, x, y: cross(axis, x), z: axis }];
  });
  if (frames.length > 0) return frames.slice(0, FRAMES);
  return [{ face: "", origin, x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }];
}

/** A point as seen from a frame, mm. */
export function inFrame({ origin, x, y, z }: LocalFrame, at: Vec3): Vec3 {
  const away = sub(at, origin);
  return [dot(away, x), dot(away, y), dot(away, z)];
}
