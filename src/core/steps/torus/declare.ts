import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { AXIS_OPTIONS, axisField, pointField } from "../shared/space";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(80).describe("Of the ring, to the middle of its round section, mm"),
  section: lengthField({ above: 0 }).default(16).describe("Diameter of the section, mm"),
  at: pointField().default([0, 0, 0]).describe("Centre"),
  axis: axisField.default("z"),
});

/** A ring of round section. */
export const torus = declareStep({
  type: "torus",
  schema,
  words: { label: "Torus", line: "A ring of round section, by its centre", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter of the ring" },
    { key: "section", kind: "length", label: "Diameter of its section" },
    { key: "at", kind: "point", label: "Centre" },
    { key: "axis", kind: "choice", label: "About", options: AXIS_OPTIONS },
  ],
});
