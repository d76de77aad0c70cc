import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { declareStep } from "../declare";
import { INTO_FORM, intoFields, putsInto } from "../shared/into/declare";
import { MAKES } from "../shared/profile/declare";

const schema = z.object({
  sections: z
    .array(itemRef)
    .max(100)
    .default([])
    .describe("Sketches in order, each of one closed outline, or of a point"),
  fromFace: z.array(faceRefSchema).max(1).default([]).describe("A flat face that it begins at, before the sketches"),
  toFace: z.array(faceRefSchema).max(1).default([]).describe("A flat face that it ends at, after the sketches"),
  surface: z.enum(["straight", "smooth"]).default("straight").describe("Between the sections"),
  ring: z.boolean().default(false).describe("The last section goes on to the first"),
  squareStart: z.boolean().default(false).describe("smooth: it leaves the first section square to its plane"),
  startReach: lengthField({ min: 0 }).default(0).describe("How strongly, mm; 0 for as far as to the next section"),
  squareEnd: z.boolean().default(false).describe("smooth: it comes to the last section square to its plane"),
  endReach: lengthField({ min: 0 }).default(0).describe("How strongly, mm; 0 for as far as from the section before"),
  guides: z
    .array(itemRef)
    .max(50)
    .default([])
    .describe("smooth: sketches of curves, each along the same corner of all sections, or from one to the next"),
  starts: z
    .array(z.number().int().min(-500).max(500))
    .max(100)
    .default([])
    .describe("For each section, by how many corners its start is moved on"),
  as: z.enum(["solid", "sheet"]).default("solid"),
  ...intoFields,
});

const SMOOTH = { key: "surface", is: ["smooth"] };

const NO_RING = { key: "ring", is: ["false"] };

/** A body through sections. */
export const loft = declareStep({
  type: "loft",
  schema,
  words: {
    label: "Loft",
    line: "A body through outlines in several planes, out to a point, or round in a ring",
    stage: "shape",
  },
  fields: [
    { key: "sections", kind: "bodies", label: "Sections, in order", accepts: ["drawn"], min: 0 },
    { key: "fromFace", kind: "faces", label: "Begins at a flat face", accepts: "plane", min: 0, max: 1, when: NO_RING },
    { key: "toFace", kind: "faces", label: "Ends at a flat face", accepts: "plane", min: 0, max: 1, when: NO_RING },
    {
      key: "surface",
      kind: "choice",
      label: "Between them",
      options: [
        { value: "straight", label: "Straight" },
        { value: "smooth", label: "Smooth" },
      ],
    },
    { key: "ring", kind: "toggle", label: "In a ring, back to the first" },
    { key: "squareStart", kind: "toggle", label: "Leaves the first square", when: [SMOOTH, NO_RING] },
    {
      key: "startReach",
      kind: "length",
      label: "How strongly",
      help: "0: as far as to the next section",
      when: [SMOOTH, NO_RING, { key: "squareStart", is: ["true"] }],
    },
    { key: "squareEnd", kind: "toggle", label: "Comes to the last square", when: [SMOOTH, NO_RING] },
    {
      key: "endReach",
      kind: "length",
      label: "How strongly",
      help: "0: as far as from the section before",
      when: [SMOOTH, NO_RING, { key: "squareEnd", is: ["true"] }],
    },
    {
      key: "guides",
      kind: "bodies",
      label: "Guides, along corners",
      accepts: ["drawn"],
      min: 0,
      when: [SMOOTH, NO_RING],
    },
    { key: "starts", kind: "starts", of: "sections", label: "Corners moved on" },
    MAKES,
    ...INTO_FORM,
  ],
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
