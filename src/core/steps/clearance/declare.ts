import * as z from "zod";
import { lengthField } from "../../params";
import { itemRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("The solid that is copied; it stays as it is"),
  distance: lengthField().default(0.25).describe("How far its skin lies from that of the copy, mm: below 0 inwards"),
  corners: z.enum(["sharp", "round"]).default("sharp").describe("How the faces of the copy meet"),
});

/** A solid grown or shrunk evenly, as a body of its own. */
export const clearance = declareStep({
  type: "clearance",
  schema,
  words: {
    label: "Clearance copy",
    line: "A solid grown or shrunk evenly, as a tool of its own: the first stays as it is",
    stage: "fit",
  },
  fields: [
    { key: "body", kind: "bodies", label: "Solid", accepts: ["closed"], min: 1, max: 1 },
    { key: "distance", kind: "length", label: "Distance", help: "Outwards; inwards when negative", processes: true },
    {
      key: "corners",
      kind: "choice",
      label: "Corners",
      options: [
        { value: "sharp", label: "Sharp" },
        { value: "round", label: "Round" },
      ],
    },
  ],
});
