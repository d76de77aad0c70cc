import * as z from "zod";
import { faceRefSchema, itemRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  face: z.array(faceRefSchema).max(1).default([]).describe("The face of a solid that is replaced"),
  by: z.enum(["face", "sheet", "workplane"]).default("face").describe("What it is replaced by"),
  onto: z.array(faceRefSchema).max(1).default([]).describe("face: of another body, run on along its own surface"),
  sheet: z.array(itemRef).max(1).default([]).describe("sheet: as it lies; it has to reach all round"),
  plane: z.array(itemRef).max(1).default([]).describe("workplane"),
  flip: z.boolean().default(false).describe("Whether the solid lies on the other side of it than the face says"),
  keep: z.boolean().default(true).describe("sheet: whether the sheet stays on the bench"),
});

/** A face of a solid replaced by another surface, with the faces beside it run on or cut back to meet that. */
export const replaceFaceStep = declareStep({
  type: "replace-face",
  schema,
  words: {
    label: "Replace face",
    line: "A face of a solid taken to another face, a sheet or a plane; those beside it follow",
    stage: "fit",
  },
  fields: [
    { key: "face", kind: "faces", label: "Face", accepts: "any", min: 1, max: 1 },
    {
      key: "by",
      kind: "choice",
      label: "Replaced by",
      options: [
        { value: "face", label: "A face" },
        { value: "sheet", label: "A sheet" },
        { value: "workplane", label: "A plane" },
      ],
    },
    {
      key: "onto",
      kind: "faces",
      label: "Face that it goes to",
      accepts: "any",
      min: 1,
      max: 1,
      help: "Run on along its own surface as far as need be",
      when: { key: "by", is: ["face"] },
    },
    {
      key: "sheet",
      kind: "bodies",
      label: "Sheet",
      accepts: ["skin"],
      min: 1,
      max: 1,
      when: { key: "by", is: ["sheet"] },
    },
    {
      key: "plane",
      kind: "bodies",
      label: "Plane",
      accepts: ["plane"],
      min: 1,
      max: 1,
      when: { key: "by", is: ["workplane"] },
    },
    { key: "flip", kind: "toggle", label: "The solid lies on its other side" },
    { key: "keep", kind: "toggle", label: "Keep the sheet", when: { key: "by", is: ["sheet"] } },
  ],
  changes: (values) => values.face.map((ref) => ref.body),
});
