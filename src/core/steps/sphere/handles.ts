import { add, scale, unit } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { toVec3 } from "../shared/space";
import { sphere } from "./declare";

/** Between the axes, where the arrows of the place are not. */
const ASLANT = unit([1, -1, 1]);

export const sphereHandles = handlesFor(sphere, (values) => {
  const at = toVec3(values.at);
  return [
    lengthAt("diameter", "diameter", add(at, scale(ASLANT, toMm(values.diameter) / 2)), ASLANT, 0.5),
    ...placedAt("at", "place", at),
  ];
});
