import * as z from "zod";
import { itemRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  bodies: z.array(itemRef).max(500).default([]).describe("What is taken off the bench"),
});

/** Takes off the bench what has served: it is in no report and no file from there on. */
export const remove = declareStep({
  type: "remove",
  schema,
  words: {
    label: "Remove",
    line: "Take off the bench what has served: tool bodies, offcuts, planes, sketches, curves",
    stage: "shape",
  },
  fields: [{ key: "bodies", kind: "bodies", label: "Taken off the bench", accepts: ["placed"], min: 1 }],
});
