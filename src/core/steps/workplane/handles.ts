import { add, cross, length, scale } from "../../kernel/space/vectors";
import { toMm } from "../../params";
import { handlesFor } from "../shared/handles/handles";
import { angleAt } from "../shared/handles/places";
import { AXES, toVec3 } from "../shared/space";
import { workplane } from "./declare";

/** Its offset, and the angle that it is turned by about an axis. */
export const workplaneHandles = handlesFor(workplane, (values, { planes, size }) =>
  planes.flatMap(({ id, origin, normal }) => {
    // Turned round, its front looks against the way in which its offset grows.
    const way = scale(normal, values.flip ? -1 : 1);
    const offset = {
      field: "offset",
      kind: "length",
      label: "offset",
      at: origin,
      way,
      rate: 1,
      moves: true,
      rim: id,
    } as const;
    if (values.base !== "turned") return [offset];
    const [axis, about] = [AXES[values.axis], toVec3(values.through)];
    const across = cross(axis, way);
    if (length(across) < 1e-9) return [offset];
    const out = scale(across, size / 4 / length(across));
    const turn = angleAt("angle", "angle", add(about, add(out, scale(way, toMm(values.offset)))), { about, axis });
    return turn ? [offset, turn] : [offset];
  }),
);
