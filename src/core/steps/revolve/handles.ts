import { distance, scale } from "../../kernel/space/vectors";
import { toRadians } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { ownFace } from "../shared/handles/places";
import { revolve } from "./declare";

/** Its angle, at the end that goes round with it. How far off the axis that is, its two ends say. */
export const revolveHandles = handlesFor(revolve, (values, around) => {
  const angle = toRadians(values.angle);
  const half = Math.abs(angle) / 2;
  const [base, end] = [ownFace(around, "cap:base"), ownFace(around, "cap:end")];
  if (values.extent === "full" || !base?.direction || !end?.direction || Math.sin(half) < 1e-3) return [];
  const reach = distance(base.centre, end.centre) / (2 * Math.sin(half));
  // Below nothing it is the base that goes, and against the way in which it looks as the angle grows.
  const back = values.extent === "angle" && angle < 0;
  const cut = values.as === "solid" && values.into === "cut";
  const { centre: at, direction } = back ? base : end;
  const rate = ((values.extent === "symmetric" ? 0.5 : 1) * reach * Math.PI) / 180;
  return [{ field: "angle", kind: "angle", label: "angle", at, way: scale(direction!, back !== cut ? -1 : 1), rate }];
});
