import type { Body } from "../items";
import { allFaceFacts, dot, facesOf, nearest, roundOf, type Shape, surfacesOf } from "../kernel";
import { SAME_PLACE } from "../tolerance";

/**
 * Faces of a tool, by place, that lie in the skin of what it cuts and look the same way: the mouths of what it cuts out. What presses
 * less into the stock must not close them.
 */
export function flushFaces(tool: Body, stock: readonly Body[]): Set<number> {
  const own = surfacesOf(tool.shape);
  const found = new Set<number>();
  for (const { shape } of stock)
    for (const [place, { signature }] of surfacesOf(shape).entries()) {
      if (signature === null) continue;
      for (const [at, surface] of own.entries())
        if (
          !found.has(at) &&
          surface.signature === signature &&
          looksAlike(tool.shape, at, shape, place) &&
          (nearest(facesOf(tool.shape)[at]!, facesOf(shape)[place]!)?.gap ?? 1) < SAME_PLACE
        )
          found.add(at);
    }
  return found;
}

/** Whether two faces in one surface look the same way. */
function looksAlike(one: Shape, at: number, other: Shape, place: number): boolean {
  const [a, b] = [allFaceFacts(one)[at]!, allFaceFacts(other)[place]!];
  if (a.kind === "plane") return dot(a.direction!, b.direction!) > 0;
  return roundOf(one, at)?.outward === roundOf(other, place)?.outward;
}
