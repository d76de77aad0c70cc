import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { AXIS_OPTIONS, axisField, pointField } from "../shared/space";

const schema = z.object({
  diameter: lengthField({ min: 0 }).default(50).describe("Of the base, mm"),
  top: lengthField({ min: 0 }).default(0).describe("Diameter of the top, mm; 0 for a point"),
  height: lengthField({ above: 0 }).default(100),
  at: pointField().default([0, 0, 0]).describe("Centre of the base"),
  axis: axisField.default("z"),
});

/** A cone, pointed or cut off. */
export const cone = declareStep({
  type: "cone",
  schema,
  words: { label: "Cone", line: "A cone, pointed or cut off, from the centre of its base", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter of the base" },
    { key: "top", kind: "length", label: "Diameter of the top" },
    { key: "height", kind: "length", label: "Height" },
    { key: "at", kind: "point", label: "Base centre" },
    { key: "axis", kind: "choice", label: "Along", options: AXIS_OPTIONS },
  ],
});
