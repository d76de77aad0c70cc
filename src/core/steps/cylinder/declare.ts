import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { AXIS_OPTIONS, axisField, pointField } from "../shared/space";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(50),
  height: lengthField({ above: 0 }).default(100),
  at: pointField().default([0, 0, 0]).describe("Centre of the base"),
  axis: axisField.default("z"),
});

/** A round bar. */
export const cylinder = declareStep({
  type: "cylinder",
  schema,
  words: { label: "Cylinder", line: "A round bar or pin, from the centre of its base", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter" },
    { key: "height", kind: "length", label: "Height" },
    { key: "at", kind: "point", label: "Base centre" },
    { key: "axis", kind: "choice", label: "Along", options: AXIS_OPTIONS },
  ],
});
