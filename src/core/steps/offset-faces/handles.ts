import { handlesFor } from "../shared/handles/handles";
import { lengthAt } from "../shared/handles/places";
import { firstSets } from "../shared/sets";
import { offsetFacesStep } from "./declare";

/** Its distances, each at the first flat face that it moves: it goes the way in which that face looks. Of a round one that is not at hand. */
export const offsetFacesHandles = handlesFor(offsetFacesStep, (values, { bodies }) => {
  const faces = bodies.flatMap((body) => body.faces);
  const sets = [
    ["distance", values.faces],
    ["distance2", values.faces2],
    ["distance3", values.faces3],
  ] as const;
  return firstSets(sets, values.sets).flatMap(([field, refs]) => {
    for (const { face: name } of refs) {
      const face = faces.find((one) => one.name === name);
      if (face?.kind === "plane" && face.direction)
        return [{ ...lengthAt(field, "distance", face.centre, face.direction), moves: true as const }];
    }
    return [];
  });
});
