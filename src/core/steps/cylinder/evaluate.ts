import { dot, makeCylinder, subshapePlanes } from "../../kernel";
import { toMm } from "../../params";
import { evaluates } from "../evaluation";
import { AXES, toVec3 } from "../shared/space";
import { cylinder } from "./declare";

export const evaluateCylinder = evaluates(cylinder, {
  weighed: () => true,
  evaluate(values, { step }) {
    const axis = AXES[values.axis];
    const shape = makeCylinder(toVec3(values.at), axis, toMm(values.diameter) / 2, toMm(values.height));
    const faces = subshapePlanes(shape).map((plane) =>
      plane ? `${step}:cap:${dot(plane.normal, axis) > 0 ? "end" : "base"}` : `${step}:side`,
    );
    return { made: [{ id: `${step}:cylinder`, kind: "solid", shape, faces, hint: { text: "Cylinder" } }], used: [] };
  },
});
