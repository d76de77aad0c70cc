import { scale } from "../../kernel/space/vectors";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, ownFace } from "../shared/handles/places";
import { extrude } from "./declare";

/** Its distances, at the ends that it has. */
export const extrudeHandles = handlesFor(extrude, (values, around) => {
  if (!["distance", "symmetric", "two"].includes(values.extent)) return [];
  const at = (field: string, label: string, end: string, rate: number) => {
    const cap = ownFace(around, `cap:${end}`);
    if (!cap?.direction) return [];
    // What it cuts out has its ends the other way round.
    const way = scale(cap.direction, values.as === "solid" && values.into === "cut" ? -1 : 1);
    return [lengthAt(field, label, cap.centre, way, rate)];
  };
  // Its ends are called as they lie along the normal, whichever way it goes.
  const [far, near] = values.flip && values.extent !== "symmetric" ? ["base", "end"] : ["end", "base"];
  return [
    ...at("distance", "distance", far!, values.extent === "symmetric" ? 0.5 : 1),
    ...(values.extent === "two" ? at("second", "the other way", near!, 1) : []),
  ];
});
