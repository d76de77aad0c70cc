import { scale } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, onRound } from "../shared/handles/places";
import { fillet, groupsOf } from "./declare";

/** Each radius, at the middle of a round face that has it: it draws back from the edge as the radius grows. */
export const filletHandles = handlesFor(fillet, (values, { step, bodies }) =>
  groupsOf(values as never).flatMap(({ field, size }) => {
    const radius = toMm(size);
    const face = bodies
      .flatMap(({ faces }) => faces)
      .find(
        (one) => one.name.startsWith(`${step}:`) && one.kind === "cylinder" && Math.abs(one.radius! - radius) < 1e-6,
      );
    const round = face && onRound(face);
    if (!round) return [];
    return [lengthAt(field, "radius", round.at, scale(round.out, -1), reachPerRadius(round.off / radius))];
  }),
);

/**
 * How far the middle of a round lies from the edge, for a radius of 1: 1/cos φ − 1, where 2φ is its arc. The middle of an arc's length
 * lies sin φ / φ from the axis (centroid of an arc, as handbooks have it), and is found by halving.
 */
function reachPerRadius(off: number): number {
  let [low, high] = [1e-6, Math.PI / 2 - 1e-3];
  for (let i = 0; i < 60; i++) {
    const phi = (low + high) / 2;
    if (Math.sin(phi) / phi > off) low = phi;
    else high = phi;
  }
  return 1 / Math.cos(low) - 1;
}
