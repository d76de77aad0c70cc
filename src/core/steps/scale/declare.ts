import * as z from "zod";
import { factorField } from "../../params";
import { itemRef } from "../../references";
import { declareStep } from "../declare";
import { pointField } from "../shared/space";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  by: z.enum(["even", "axes"]).default("even").describe("The same on all axes, or one factor for each"),
  factor: factorField().default(1).describe("even: on all axes; 1.02 for two per cent of shrink"),
  alongX: factorField().default(1).describe("axes: along X"),
  alongY: factorField().default(1).describe("axes: along Y"),
  alongZ: factorField().default(1).describe("axes: along Z"),
  about: pointField().default([0, 0, 0]).describe("The point that stays where it is"),
});

const AXES = { key: "by", is: ["axes"] };

/** Bodies made larger or smaller about a point. */
export const scaleStep = declareStep({
  type: "scale",
  schema,
  words: {
    label: "Scale",
    line: "Bodies made larger or smaller about a point, evenly or by a factor for each axis",
    stage: "shape",
  },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["body"], min: 1 },
    {
      key: "by",
      kind: "choice",
      label: "By",
      options: [
        { value: "even", label: "One factor" },
        { value: "axes", label: "One for each axis" },
      ],
    },
    { key: "factor", kind: "count", label: "Factor", when: { key: "by", is: ["even"] } },
    { key: "alongX", kind: "count", label: "Factor along X", when: AXES },
    { key: "alongY", kind: "count", label: "Factor along Y", when: AXES },
    { key: "alongZ", kind: "count", label: "Factor along Z", when: AXES },
    { key: "about", kind: "point", label: "About the point" },
  ],
  changes: (values) => values.bodies,
});
