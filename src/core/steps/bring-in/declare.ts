import * as z from "zod";
import { otherItemRef, partRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  part: partRef.default(""),
  items: z.array(otherItemRef).max(200).default([]).describe("What is brought in of it, in order"),
});

/** Bodies, sheets, curves and planes of another part, at the place where they stand there: they follow it. */
export const bringIn = declareStep({
  type: "bring-in",
  schema,
  words: {
    label: "Bring in",
    line: "Bodies, sheets, curves, planes and sketches of another part, where they stand: they follow it",
    stage: "fit",
  },
  fields: [
    { key: "part", kind: "part", label: "Of the part" },
    { key: "items", kind: "elsewhere", label: "What is brought in", of: "part" },
  ],
});
