import {
  centre,
  diagonal,
  dot,
  freeShape,
  looseBoxOf,
  makePlaneFace,
  type Shape,
  scale,
  sub,
  unionBox,
} from "../../kernel";
import type { Body, Workplane } from "../../naming";
import type { Knife } from "../../seam";

/** Faces of planes that cut before, by where they lie: while a person works on a seam, its planes stay. */
const faces = new Map<string, Shape>();
const KEPT = 24;

/** A workplane as a face that reaches past all the stock. The face stays here and is freed here. */
export function planeKnife(item: Workplane, stock: readonly Body[]): Knife {
  const box = stock
    .map((body) => looseBoxOf(body.shape))
    .filter((found) => found !== null)
    .reduce(unionBox);
  const middle = sub(centre(box), scale(item.normal, dot(sub(centre(box), item.origin), item.normal)));
  const half = diagonal(box) + 1;
  const key = [...middle, ...item.normal, half].join();
  let shape = faces.get(key);
  // The one used longest ago goes first.
  faces.delete(key);
  shape ??= makePlaneFace(middle, item.normal, half);
  faces.set(key, shape);
  if (faces.size > KEPT) {
    const [oldest] = faces;
    faces.delete(oldest![0]);
    freeShape(oldest![1]);
  }
  return { item, shape, faces: [`${item.id}:face`] };
}
