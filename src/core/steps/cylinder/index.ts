import { z } from "zod";
import { dot, makeCylinder, subshapePlanes } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { AXES, AXIS_OPTIONS, axisField, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(50),
  height: lengthField({ above: 0 }).default(100),
  at: pointField().default([0, 0, 0]).describe("Centre of the base"),
  axis: axisField.default("z"),
});

/** A round bar. */
export const cylinder = defineStep({
  type: "cylinder",
  schema,
  words: { label: "Cylinder", line: "A round bar or pin, from the centre of its base", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter" },
    { key: "height", kind: "length", label: "Height" },
    { key: "at", kind: "point", label: "Base centre" },
    { key: "axis", kind: "choice", label: "Along", options: AXIS_OPTIONS },
  ],
  refs: () => [],
  resolved: (values) => ({
    diameter: toMm(values.diameter),
    height: toMm(values.height),
    at: toVec3(values.at),
    axis: values.axis,
  }),
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
