import * as z from "zod";
import { angleField } from "../../params";
import { faceRefSchema } from "../../references";
import { declareStep } from "../declare";
import { planeFields, planeForm } from "../shared/plane/declare";

const schema = z.object({
  faces: z
    .array(faceRefSchema)
    .max(500)
    .default([])
    .describe("The faces; what runs smoothly on from them is drafted, too"),
  ...planeFields,
  about: planeFields.about.default("xy").describe("The neutral plane: what lies in it stays where it is"),
  angle: angleField({ min: -85, max: 85 })
    .default(2)
    .describe("Above 0: less material the way the plane's front looks"),
  flip: z.boolean().default(false).describe("Less material the other way"),
});

/** Faces tilted about where they meet a plane, so that a casting leaves its mould. */
export const draft = declareStep({
  type: "draft",
  schema,
  words: {
    label: "Draft faces",
    line: "Faces tilted from a neutral plane on, so that a casting leaves its mould",
    stage: "shape",
  },
  fields: [
    { key: "faces", kind: "faces", label: "Faces", accepts: "any", min: 1, rules: true },
    ...planeForm("Neutral plane"),
    { key: "angle", kind: "angle", label: "Draft" },
    { key: "flip", kind: "toggle", label: "The other way round" },
  ],
  changes: (values) => values.faces.map((ref) => ref.body),
});
