import { incidenceOf } from "../library/incidence";
import { type Shape, shapeKind } from "../library/topology";
import type { Box, Vec3 } from "../space/vectors";

/** A single face with straight edges, none of which comes near a box. */
export function reachesPast(knife: Shape, box: Box): boolean {
  if (shapeKind(knife) === "solid") return false;
  const { faces, edges, vertices } = incidenceOf(knife);
  return (
    faces.length === 1 &&
    edges.every(({ curve, vertices: ends }) => {
      const [from, to] = ends.map((end) => vertices[end]!.at);
      return curve?.curve.kind === "line" && from !== undefined && to !== undefined && !meetsBox(from, to, box);
    })
  );
}

/** Whether a straight line between two points passes through a box (by its slabs). */
function meetsBox(from: Vec3, to: Vec3, { min, max }: Box): boolean {
  let [enter, leave] = [0, 1];
  for (let k = 0; k < 3; k++) {
    const way = to[k]! - from[k]!;
    if (Math.abs(way) < 1e-12) {
      if (from[k]! < min[k]! || from[k]! > max[k]!) return false;
      continue;
    }
    const [a, b] = [(min[k]! - from[k]!) / way, (max[k]! - from[k]!) / way];
    enter = Math.max(enter, Math.min(a, b));
    leave = Math.min(leave, Math.max(a, b));
  }
  return enter <= leave;
}
