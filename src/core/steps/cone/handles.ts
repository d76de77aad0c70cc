import { add, scale, squareTo } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { cone } from "./declare";

/** The diameters at its rims, the height at its end, the place at its base. */
export const coneHandles = handlesFor(cone, (values) => {
  const [at, axis] = [toVec3(values.at), AXES[values.axis]];
  const out = squareTo(axis);
  const end = add(at, scale(axis, toMm(values.height)));
  return [
    lengthAt("diameter", "diameter", add(at, scale(out, toMm(values.diameter) / 2)), out, 0.5),
    lengthAt("top", "top diameter", add(end, scale(out, toMm(values.top) / 2)), out, 0.5),
    lengthAt("height", "height", end, axis),
    ...placedAt("at", "place", at),
  ];
});
