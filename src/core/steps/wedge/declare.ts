import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { pointField } from "../shared/space";

const schema = z.object({
  length: lengthField({ above: 0 }).default(60).describe("Along X, mm"),
  width: lengthField({ above: 0 }).default(30).describe("Along Y, mm"),
  height: lengthField({ above: 0 }).default(20).describe("Along Z, mm"),
  top: lengthField({ min: 0 }).default(0).describe("Length of the top along X, mm; 0 for an edge"),
  ridge: z.enum(["start", "middle"]).default("start").describe("Where the top lies over the base"),
  at: pointField().default([0, 0, 0]).describe("The low corner of the base"),
});

/** A wedge, with an edge or a narrower top. */
export const wedge = declareStep({
  type: "wedge",
  schema,
  words: { label: "Wedge", line: "A block that narrows upwards to an edge or a shorter top", stage: "shape" },
  fields: [
    { key: "length", kind: "length", label: "Length" },
    { key: "width", kind: "length", label: "Width" },
    { key: "height", kind: "length", label: "Height" },
    { key: "top", kind: "length", label: "Length of the top" },
    {
      key: "ridge",
      kind: "choice",
      label: "The top lies",
      options: [
        { value: "start", label: "Over the start" },
        { value: "middle", label: "In the middle" },
      ],
    },
    { key: "at", kind: "point", label: "Low corner" },
  ],
});
