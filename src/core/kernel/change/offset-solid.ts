import { distanceToPoint } from "../facts/distance";
import { volumeOf } from "../facts/mass";
import { isValid, openEdges } from "../facts/measure";
import { pointOnFace } from "../facts/on-face";
import { facesOf, freeShape, orientation, type Shape } from "../library/topology";
import { solidFromFaces } from "../make/solid-from-faces";
import { hollowOut } from "./hollow";

/** How far a face may be off where it is to be, mm. */
const OFF = 1e-5;

/**
 * A solid grown or shrunk by a distance, mm, its faces run on to meet: the other side of walls of that thickness, outside it where above 0.
 * It takes free faces as they come, for which dividing by all of them takes minutes.
 * @returns with the face of the solid, by place, that each face came from; null where the library cannot do it, or not soundly.
 */
export function offsetSolid(solid: Shape, by: number): { shape: Shape; from: number[] } | null {
  const walls = hollowOut(solid, [], Math.abs(by), by > 0, false);
  if ("tight" in walls) return null;
  try {
    const sides = facesOf(walls.shape).flatMap((shape, i) => {
      const { is, place } = walls.faces[i]!;
      // Inwards they bound the void that walls go round: turned over they bound what would fill it.
      const turn = by > 0 ? 1 : -1;
      return is === "other-side" ? [{ shape, sign: (orientation(shape) === -1 ? -turn : turn) as 1 | -1, place }] : [];
    });
    const { shape, order } = solidFromFaces(sides);
    const own = facesOf(solid);
    // Each face lies as far from the one that it came from as it is to: nearer or further it is another.
    const isThere = (face: Shape, place: number) =>
      Math.abs((distanceToPoint(own[place]!, pointOnFace(face))?.gap ?? 0) - Math.abs(by)) < OFF;
    const isSound =
      openEdges(shape).length === 0 &&
      isValid(shape) &&
      facesOf(shape).every((face, i) => isThere(face, sides[order[i]!]!.place));
    const [volume, before] = isSound ? [volumeOf(shape), volumeOf(solid)] : [0, 0];
    if (volume > 0 && volume > before === by > 0) return { shape, from: order.map((i) => sides[i]!.place) };
    freeShape(shape);
    return null;
  } finally {
    freeShape(walls.shape);
  }
}
