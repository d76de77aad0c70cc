import { handlesFor } from "../shared/handles/handles";
import { lengthAt, ownFlat } from "../shared/handles/places";
import { shell } from "./declare";

/** Its thickness, at a flat face of a wall: it goes the way in which that face looks. */
export const shellHandles = handlesFor(shell, (values, around) => {
  const flat = values.how === "even" && values.walls === "one" ? ownFlat(around, "wall:") : null;
  return flat ? [lengthAt("thickness", "thickness", flat.centre, flat.direction)] : [];
});
