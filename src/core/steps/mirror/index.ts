import { z } from "zod";
import { fail } from "../../errors";
import { mirrored } from "../../kernel";
import { copyOf, joinedWith, REPEAT_FORM, repeatFields, repeatRefs, repeatSteps } from "../copies";
import { chosenPlane, planeFields, planeForm, planeRefs } from "../plane-choice";
import { defineStep } from "../step";

const schema = z.object({
  ...repeatFields,
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
    line: "Bodies mirrored in a plane, by themselves or joined with their images; or what steps joined and cut",
    stage: "shape",
  },
  fields: [
    ...REPEAT_FORM,
    ...planeForm("In"),
    { key: "join", kind: "toggle", label: "Join with the image", when: { key: "what", is: ["bodies"] } },
    {
      key: "keep",
      kind: "toggle",
      label: "Keep the original",
      when: [
        { key: "what", is: ["bodies"] },
        { key: "join", is: ["false"] },
      ],
    },
  ],
  refs: (values) => [...repeatRefs(values), ...planeRefs(values)],
  repeats: (values) => (values.what === "steps" ? values.steps : []),
  resolved: (values) => values,
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.what === "steps") {
      const { origin, normal } = chosenPlane(values, "mirror in", context);
      return repeatSteps(
        values.steps,
        ({ shape }) => [{ mark: "image", shape: mirrored(shape, origin, normal) }],
        context,
      );
    }
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
