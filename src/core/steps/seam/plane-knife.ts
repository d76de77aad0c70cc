import { centre, diagonal, dot, looseBoxOf, makePlaneFace, scale, sub, unionBox } from "../../kernel";
import type { Body, Workplane } from "../../naming";
import type { Knife } from "../../seam";

/** A workplane as a face that reaches past all the stock. Its face belongs to the caller, who frees it after the cut. */
export function planeKnife(item: Workplane, stock: readonly Body[]): Knife {
  const box = stock
    .map((body) => looseBoxOf(body.shape))
    .filter((found) => found !== null)
    .reduce(unionBox);
  const middle = sub(centre(box), scale(item.normal, dot(sub(centre(box), item.origin), item.normal)));
  const shape = makePlaneFace(middle, item.normal, diagonal(box) + 1);
  return { item, shape, faces: [`${item.id}:face`] };
}
