import type { Body, Workplane } from "../../items";
import { centre, diagonal, dot, looseBoxOf, planeFaceFor, type Shape, scale, sub, unionBox } from "../../kernel";
import type { Knife } from "../../seam";

/** A workplane as a face that reaches past all the stock. @param own takes the faces that the caller has to free after the cut. */
export function planeKnife(item: Workplane, stock: readonly Body[], own: Shape[]): Knife {
  const box = stock
    .map((body) => looseBoxOf(body.shape))
    .filter((found) => found !== null)
    .reduce(unionBox);
  const middle = sub(centre(box), scale(item.normal, dot(sub(centre(box), item.origin), item.normal)));
  const { face: shape, kept } = planeFaceFor(stock[0]!.shape, middle, item.normal, diagonal(box) + 1);
  if (!kept) own.push(shape);
  return { item, shape, faces: [`${item.id}:face`] };
}
