import { add, centre, scale, squareTo, turned, unionBox } from "../../kernel/space/vectors";
import { toRadians } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { angleAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { move } from "./declare";

/** The shift in the middle of what is moved, the turn on a circle about its axis. */
export const moveHandles = handlesFor(move, (values, { bodies, size }) => {
  const boxes = bodies.flatMap(({ box }) => (box ? [box] : []));
  if (boxes.length === 0) return [];
  const whole = boxes.reduce(unionBox);
  const [about, axis] = [add(toVec3(values.about), toVec3(values.by)), AXES[values.axis]];
  const out = scale(turned(squareTo(axis), axis, toRadians(values.turn)), size / 4);
  const turn = angleAt("turn", "turn", add(about, out), { about, axis });
  return [...placedAt("by", "shift", centre(whole)), ...(turn ? [turn] : [])];
});
