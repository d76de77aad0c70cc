import { curvesOf, length2, scale2, slopeAt, type Vec2 } from "../curves";
import { allOf, type Entity, type Sketch } from "../entities";
import { endsOf } from "../solver/contacts";

/** The unit direction in which a curve arrives at one of its ends, outwards from it. */
export function directionAtEnd(sketch: Sketch, entity: Entity, end: string): Vec2 {
  const curve = curvesOf(allOf(sketch), true).find(({ id }) => id === entity.id)!;
  const slope = slopeAt(curve, endsOf(entity)[0] === end ? 0 : 1);
  const sign = endsOf(entity)[0] === end ? -1 : 1;
  return scale2(slope, sign / (length2(slope) || 1));
}
