import type { Curve, Vec2 } from "./curves";
import { boxesMeet, boxOf, crossings } from "./profile/crossings";

/** The places where two curves meet. */
export function meet(a: Curve, b: Curve): Vec2[] {
  return boxesMeet(boxOf(a), boxOf(b)) ? crossings(a, b).map(({ at }) => at) : [];
}
