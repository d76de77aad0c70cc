import { z } from "zod";
import { makeSphere } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  diameter: lengthField({ above: 0 }).default(50),
  at: pointField().default([0, 0, 0]).describe("Centre"),
});

/** A ball. */
export const sphere = defineStep({
  type: "sphere",
  schema,
  words: { label: "Sphere", line: "A ball, by its centre", stage: "shape" },
  fields: [
    { key: "diameter", kind: "length", label: "Diameter" },
    { key: "at", kind: "point", label: "Centre" },
  ],
  refs: () => [],
  resolved: (values) => ({ diameter: toMm(values.diameter), at: toVec3(values.at) }),
  weighed: () => true,
  evaluate(values, { step }) {
    const shape = makeSphere(toVec3(values.at), toMm(values.diameter) / 2);
    return {
      made: [{ id: `${step}:sphere`, kind: "solid", shape, faces: [`${step}:skin`], hint: { text: "Sphere" } }],
      used: [],
    };
  },
});
