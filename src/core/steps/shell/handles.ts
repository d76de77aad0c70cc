import { handlesFor } from "../shared/handles/handles";
import { lengthAt } from "../shared/handles/places";
import { shell } from "./declare";

/** Its thickness, at a flat face of those that it made: it goes the way in which that face looks. */
export const shellHandles = handlesFor(shell, (values, { step, bodies }) => {
  if (values.how !== "even" || values.walls !== "one") return [];
  const flat = bodies
    .flatMap(({ faces }) => faces)
    .find(({ name, kind }) => kind === "plane" && name.startsWith(`${step}:`) && !name.includes("rim"));
  return flat?.direction ? [lengthAt("thickness", "thickness", flat.centre, flat.direction)] : [];
});
