import { add, scale, squareTo } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { torus } from "./declare";

/** The ring's diameter where its section's middle is, the section's on top of it. */
export const torusHandles = handlesFor(torus, (values) => {
  const [at, axis] = [toVec3(values.at), AXES[values.axis]];
  const out = squareTo(axis);
  const middle = add(at, scale(out, toMm(values.diameter) / 2));
  return [
    lengthAt("diameter", "diameter", middle, out, 0.5),
    lengthAt("section", "section", add(middle, scale(axis, toMm(values.section) / 2)), axis, 0.5),
    ...placedAt("at", "place", at),
  ];
});
