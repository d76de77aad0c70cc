import * as z from "zod";
import { lengthField } from "../../params";
import { declareCheck } from "../declare";

/** How bodies lie to each other, each against each: what shares room, touches, and how far apart the rest is. */
export const fitCheck = declareCheck({
  id: "fit",
  schema: z.object({
    of: z.enum(["part", "job"]).default("part").describe("The bodies of this part, or of all parts where they stand"),
    within: lengthField({ min: 0 }).default(5).describe("Gaps up to this are listed, mm"),
  }),
  words: {
    label: "Fit audit",
    line: "Bodies against each other: overlap, touching faces, least gaps, and what is wanted of them",
  },
  fields: [
    {
      key: "of",
      kind: "choice",
      label: "Bodies of",
      options: [
        { value: "part", label: "This part" },
        { value: "job", label: "All parts" },
      ],
    },
    { key: "within", kind: "length", label: "Gaps up to" },
  ],
  wholeJob: ({ of }) => of === "job",
});
