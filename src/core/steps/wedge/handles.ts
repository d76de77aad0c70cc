import { add } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { wedge } from "./declare";

/** Its length and width at the far sides of the base, the height at the top. */
export const wedgeHandles = handlesFor(wedge, (values) => {
  const [at, l, w, h, top] = [
    toVec3(values.at),
    toMm(values.length),
    toMm(values.width),
    toMm(values.height),
    toMm(values.top),
  ];
  const start = values.ridge === "middle" ? (l - top) / 2 : 0;
  return [
    lengthAt("length", "length", add(at, [l, w / 2, 0]), AXES.x),
    lengthAt("width", "width", add(at, [l / 2, w, 0]), AXES.y),
    // Where the top begins: with the ridge in the middle that moves with its length, too.
    lengthAt("height", "height", add(at, [start, w / 2, h]), AXES.z),
    ...placedAt("at", "place", at),
  ];
});
