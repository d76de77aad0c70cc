import { incidenceOf } from "../library/incidence";
import { lib } from "../library/library";
import { scoped } from "../library/scope";
import { asFace, facesOf, type Shape } from "../library/topology";
import { trianglesCross } from "../space/triangle-crossing";
import { boxesMeet } from "../space/vectors";
import { looseBoxOf } from "./box";
import { nearest } from "./distance";
import { parameterRange } from "./parameter-range";

/** Nearer than this, mm, and faces touch. */
const TOUCH = 1e-7;

/**
 * Whether faces that share no corner meet all the same, or a free-form face crosses itself: a body that runs into itself.
 * The library's own check does not look for that.
 */
export function meetsItself(shape: Shape): boolean {
  const faces = facesOf(shape);
  const corners = faces.map(() => new Set<number>());
  incidenceOf(shape).vertices.forEach(({ faces: around }, vertex) => {
    for (const face of around) corners[face]!.add(vertex);
  });
  const boxes = faces.map((face) => looseBoxOf(face));
  if (faces.some((_, place) => faceCrossesItself(shape, place))) return true;
  return faces.some((face, a) =>
    faces.some((other, b) => {
      if (b <= a || !boxes[a] || !boxes[b] || !boxesMeet(boxes[a], boxes[b], TOUCH)) return false;
      if ([...corners[a]!].some((vertex) => corners[b]!.has(vertex))) return false;
      return (nearest(face, other)?.gap ?? 1) < TOUCH;
    }),
  );
}

/** Into how many parts a free-form face is divided each way, to see whether it crosses itself. */
const PARTS = 80;

/**
 * Whether a free-form face crosses itself, seen by triangles over a grid of its parameters: two that have no corner in
 * common cross. A face of another outline than a rectangle of parameters is passed over.
 */
function faceCrossesItself(shape: Shape, place: number): boolean {
  const face = incidenceOf(shape).faces[place]!;
  const range = face.surface?.kind === "spline" ? parameterRange(face) : null;
  if (!range) return false;
  return scoped((scope) => {
    const oc = lib();
    const surface = scope.use(oc.BRep_Tool.Surface(asFace(scope, facesOf(shape)[place]!)));
    const positions: number[] = [];
    const indices: number[] = [];
    const at = ([from, to]: readonly [number, number], i: number) => from + ((to - from) * i) / PARTS;
    for (let i = 0; i <= PARTS; i++)
      for (let j = 0; j <= PARTS; j++) {
        const point = surface.EvalD0(at(range.u, i), at(range.v, j));
        positions.push(point.X(), point.Y(), point.Z());
        point.delete();
        if (i === PARTS || j === PARTS) continue;
        const corner = i * (PARTS + 1) + j;
        const [right, up] = [corner + PARTS + 1, corner + 1];
        indices.push(corner, right, up, up, right, right + 1);
      }
    return trianglesCross({ positions, indices });
  });
}
