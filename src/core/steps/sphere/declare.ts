import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { pointField } from "../shared/space";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(50),
  at: pointField().default([0, 0, 0]).describe("Centre"),
});

/** A ball. */
export const sphere = declareStep({
  type: "sphere",
  schema,
  words: { label: "Sphere", line: "A ball, by its centre", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter" },
    { key: "at", kind: "point", label: "Centre" },
  ],
});
