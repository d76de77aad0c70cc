import type { Shape } from "../library/topology";
import { surfacesOf } from "./surfaces";

const FEW_FACES = 8;

/**
 * Whether a body is a part of a ball between flat walls, or conical ones, as chamfers are. Where such walls meet at the ball's pole the library's own offset takes
 * most of a minute, and says nothing or leaves a part of the body full; where a chamfer is used up it takes minutes.
 * @param open faces that do not count, by place.
 */
export function isBallWedge(shape: Shape, open: readonly number[] = []): boolean {
  const faces = surfacesOf(shape);
  const walls = faces.filter(
    ({ kind }, place) => (kind === "plane" || kind === "cone") && !open.includes(place),
  ).length;
  return faces.length <= FEW_FACES && walls + open.length >= 2 && faces.some(({ kind }) => kind === "sphere");
}
