import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  faces: z.array(faceRefSchema).max(500).default([]).describe("Faces of one body"),
  distance: lengthField().default(0).describe("Along the faces' outward normals, mm"),
  extend: lengthField({ min: 0 })
    .default(0)
    .describe("How far the sheet goes on past its open edges, mm; holes in it are closed"),
});

/** A sheet copied off the faces of a body, moved and extended, to divide with. */
export const offsetSheetStep = declareStep({
  type: "offset-sheet",
  schema,
  words: {
    label: "Offset sheet",
    line: "A sheet taken off picked faces, moved away and run out past its edges",
    stage: "sheets",
  },
  fields: [
    { key: "faces", kind: "faces", label: "Faces", accepts: "any", min: 1, rules: true },
    {
      key: "distance",
      kind: "length",
      label: "Distance",
      help: "Outwards; inwards when negative. The arrows show which way",
    },
    {
      key: "extend",
      kind: "length",
      label: "Extend past open edges",
      help: "Holes in the faces are closed when it is more than 0",
    },
  ],
});
