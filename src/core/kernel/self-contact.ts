import { looseBoxOf } from "./box";
import { nearest } from "./distance";
import { incidenceOf } from "./incidence";
import { facesOf, type Shape } from "./topology";
import type { Box } from "./vectors";

/** Nearer than this, mm, and faces touch. */
const TOUCH = 1e-7;

/**
 * Whether faces that share no corner meet all the same: a body that runs into itself. The library's own check does not look
 * for that. A single face that runs into itself is not found.
 */
export function meetsItself(shape: Shape): boolean {
  const faces = facesOf(shape);
  const corners = faces.map(() => new Set<number>());
  incidenceOf(shape).vertices.forEach(({ faces: around }, vertex) => {
    for (const face of around) corners[face]!.add(vertex);
  });
  const boxes = faces.map((face) => looseBoxOf(face));
  return faces.some((face, a) =>
    faces.some((other, b) => {
      if (b <= a || !boxes[a] || !boxes[b] || !overlap(boxes[a], boxes[b])) return false;
      if ([...corners[a]!].some((vertex) => corners[b]!.has(vertex))) return false;
      return (nearest(face, other)?.gap ?? 1) < TOUCH;
    }),
  );
}

const overlap = (a: Box, b: Box): boolean =>
  [0, 1, 2].every((axis) => a.min[axis]! <= b.max[axis]! + TOUCH && b.min[axis]! <= a.max[axis]! + TOUCH);
