import * as z from "zod";
import { angleField, lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  face: z.array(faceRefSchema).max(1).default([]).describe("A flat or cylindrical face of the body that is moved"),
  onto: z
    .array(faceRefSchema)
    .max(1)
    .default([])
    .describe("The face of another body that it goes to, of the same kind"),
  how: z
    .enum(["facing", "flush"])
    .default("facing")
    .describe("facing: one against the other; flush: looking the same way"),
  gap: lengthField().default(0).describe("Between flat faces, mm"),
  spin: angleField().default(0).describe("About the normal or the axis, afterwards"),
  middle: z.boolean().default(false).describe("Middle over middle; otherwise it moves no further than it has to"),
  others: z.array(itemRef).max(200).default([]).describe("Bodies that are moved along with it"),
});

/** A body moved so that one of its faces lies on a face of another. */
export const align = declareStep({
  type: "align",
  schema,
  words: {
    label: "Align",
    line: "A body put where one of its faces lies on another: flat against flat, or axis on axis",
    stage: "shape",
  },
  fields: [
    { key: "face", kind: "faces", label: "Face of what moves", accepts: "any", min: 1, max: 1 },
    { key: "onto", kind: "faces", label: "Face that it goes to", accepts: "any", min: 1, max: 1 },
    {
      key: "how",
      kind: "choice",
      label: "The faces",
      options: [
        { value: "facing", label: "Face each other" },
        { value: "flush", label: "Look the same way" },
      ],
    },
    { key: "gap", kind: "length", label: "Gap between them", help: "Flat faces only" },
    { key: "spin", kind: "angle", label: "Turned by" },
    { key: "middle", kind: "toggle", label: "Middle over middle" },
    { key: "others", kind: "bodies", label: "Moved along with it", accepts: ["body"], min: 0 },
  ],
  changes: (values) => [...values.face.map((ref) => ref.body), ...values.others],
});
