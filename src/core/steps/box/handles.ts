import type { Vec3 } from "../../kernel";
import { handlesFor } from "../shared/handles/handles";
import { lengthAt, placedAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { box } from "./declare";

/** Sizes at the far sides, and the place; round bodies, the margins. */
export const boxHandles = handlesFor(box, ({ place, anchor, at }, { bodies }) => {
  const found = bodies[0]?.box;
  if (!found) return [];
  const field = place === "around" ? "margin" : "size";
  const sides = (["x", "y", "z"] as const).map((axis, index) => {
    const middle = [0, 1, 2].map((k) => (k === index ? found.max[k]! : (found.min[k]! + found.max[k]!) / 2));
    const both = place === "sized" && (anchor === "centre" || (anchor === "base" && axis !== "z"));
    return {
      ...lengthAt(field, `${field} ${axis.toUpperCase()}`, middle as unknown as Vec3, AXES[axis], both ? 0.5 : 1),
      index,
    };
  });
  return place === "around" ? sides : [...sides, ...placedAt("at", "place", toVec3(at))];
});
