import * as z from "zod";
import { declareStep } from "../declare";
import { planeFields, planeForm } from "../shared/plane/declare";
import { REPEAT_FORM, repeatFields } from "../shared/repeat/declare";

const schema = z.object({
  ...repeatFields,
  ...planeFields,
  join: z.boolean().default(false).describe("Each body and its image become one"),
  keep: z.boolean().default(true).describe("The original stays beside its image"),
});

/** Bodies mirrored in a plane. */
export const mirror = declareStep({
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
});
