import { z } from "zod";
import { fail } from "../../errors";
import { mirrored } from "../../kernel";
import { itemRef } from "../common";
import { copyOf, joinedWith } from "../copies";
import { chosenPlane, planeFields, planeForm, planeRefs } from "../plane-choice";
import { defineStep } from "../step";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  ...planeFields,
  join: z.boolean().default(false).describe("Each body and its image become one"),
  keep: z.boolean().default(true).describe("The original stays beside its image"),
});

/** Bodies mirrored in a plane. */
export const mirror = defineStep({
  type: "mirror",
  schema,
  words: {
    label: "Mirror",
    line: "Bodies mirrored in a plane, by themselves or joined with their images",
    stage: "shape",
  },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["solid", "sheet"], min: 1 },
    ...planeForm("In"),
    { key: "join", kind: "toggle", label: "Join with the image" },
    { key: "keep", kind: "toggle", label: "Keep the original", when: { key: "join", is: ["false"] } },
  ],
  refs: (values) => [...values.bodies, ...planeRefs(values)],
  resolved: (values) => values,
  evaluate(values, context) {
    const { step } = context;
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to mirror.", { step });
    const { origin, normal } = chosenPlane(values, "mirror in", context);
    const images = bodies.map((body) =>
      copyOf(body, mirrored(body.shape, origin, normal), step, "image", values.keep ? "mirrored" : ""),
    );
    if (values.join)
      return joinedWith(
        bodies,
        images.map((image) => [image]),
        context,
      );
    return { made: images, used: values.keep ? [] : bodies.map(({ id }) => id) };
  },
});
