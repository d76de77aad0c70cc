import { add, scale, squareTo } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { cylinder } from "./declare";

/** The diameter half-way up its side, the height at its end, the place at its base. */
export const cylinderHandles = handlesFor(cylinder, (values) => {
  const [at, axis, height] = [toVec3(values.at), AXES[values.axis], toMm(values.height)];
  const out = squareTo(axis);
  const half = add(at, scale(axis, height / 2));
  return [
    lengthAt("diameter", "diameter", add(half, scale(out, toMm(values.diameter) / 2)), out, 0.5),
    lengthAt("height", "height", add(at, scale(axis, height)), axis),
    ...placedAt("at", "place", at),
  ];
});
