import * as z from "zod";
import { angleField } from "../../params";
import { declareStep } from "../declare";
import { alongFields, CORNERS_FIELD, PATH_FORM } from "../shared/along/declare";
import { INTO_FORM, intoFields, putsInto } from "../shared/into/declare";
import { PROFILE_FORM, PROFILE_OF, profileFields } from "../shared/profile/declare";

const schema = z.object({
  ...profileFields,
  ...alongFields,
  stands: z
    .enum(["square", "same"])
    .default("square")
    .describe("square: turns with the path; same: keeps its direction"),
  twist: angleField({ min: -36_000, max: 36_000 })
    .default(0)
    .describe("square: about the path, from its beginning to its end"),
  ...intoFields,
});

/** A section drawn along a path. */
export const sweep = declareStep({
  type: "sweep",
  schema,
  words: {
    label: "Sweep",
    line: "A section of any form along a path: turning with it, twisting, or keeping its direction",
    stage: "shape",
  },
  fields: [
    ...PROFILE_OF,
    ...PROFILE_FORM,
    ...PATH_FORM,
    {
      key: "stands",
      kind: "choice",
      label: "The section",
      options: [
        { value: "square", label: "Turns with the path" },
        { value: "same", label: "Keeps its direction" },
      ],
    },
    { key: "twist", kind: "angle", label: "Twist", when: { key: "stands", is: ["square"] } },
    CORNERS_FIELD,
    ...INTO_FORM,
  ],
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
