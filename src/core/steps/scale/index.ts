import { z } from "zod";
import { fail } from "../../errors";
import { scaled } from "../../kernel";
import { factorField, toFactor } from "../../params";
import { itemRef, pointField, toVec3 } from "../common";
import { defineStep } from "../step";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  factor: factorField().default(1).describe("On all axes; 1.02 for two per cent of shrink"),
  about: pointField().default([0, 0, 0]).describe("The point that stays where it is"),
});

/** Bodies made larger or smaller about a point. */
export const scaleStep = defineStep({
  type: "scale",
  schema,
  words: { label: "Scale", line: "Bodies made larger or smaller about a point", stage: "shape" },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["solid", "sheet"], min: 1 },
    { key: "factor", kind: "count", label: "Factor" },
    { key: "about", kind: "point", label: "About the point" },
  ],
  refs: (values) => values.bodies,
  resolved: (values) => ({ factor: toFactor(values.factor), about: toVec3(values.about) }),
  evaluate(values, context) {
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to scale.", { step: context.step });
    const [factor, about] = [toFactor(values.factor), toVec3(values.about)];
    return {
      made: bodies.map((body) => ({ ...body, shape: scaled(body.shape, about, factor) })),
      used: bodies.map(({ id }) => id),
    };
  },
});
