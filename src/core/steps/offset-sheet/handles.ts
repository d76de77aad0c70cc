import { handlesFor } from "../shared/handles/handles";
import { lengthAt, ownFlat } from "../shared/handles/places";
import { offsetSheetStep } from "./declare";

/** Its distance, at a flat face of the sheet. */
export const offsetSheetHandles = handlesFor(offsetSheetStep, (_, around) => {
  const flat = ownFlat(around);
  return flat ? [{ ...lengthAt("distance", "distance", flat.centre, flat.direction), moves: true as const }] : [];
});
