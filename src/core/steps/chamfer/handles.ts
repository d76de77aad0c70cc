import { scale } from "../../kernel/space/vectors";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, ownFlat } from "../shared/handles/places";
import { chamfer } from "./declare";

/** Its distance, at the middle of a flat that it cut: at a square edge that goes back by 1/√2 of it. */
export const chamferHandles = handlesFor(chamfer, (values, around) => {
  const flat = values.kind === "equal" ? ownFlat(around) : null;
  return flat ? [lengthAt("distance", "distance", flat.centre, scale(flat.direction, -1), Math.SQRT1_2)] : [];
});
