import { handlesFor } from "../shared/handles/handles";
import { lengthAt } from "../shared/handles/places";
import { offsetSheetStep } from "./declare";

/** Its distance, at a flat face of the sheet. */
export const offsetSheetHandles = handlesFor(offsetSheetStep, (_, { step, bodies }) => {
  const flat = bodies
    .flatMap(({ faces }) => faces)
    .find(({ name, kind }) => kind === "plane" && name.startsWith(`${step}:`));
  return flat?.direction
    ? [{ ...lengthAt("distance", "distance", flat.centre, flat.direction), moves: true as const }]
    : [];
});
