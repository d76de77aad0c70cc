import * as z from "zod";
import { takenSchema } from "../../place/taken";
import { otherEdgeRef, otherFaceRef, otherItemRef, partRef } from "../../references";
import { declareStep } from "../declare";

const schema = z.object({
  part: partRef.default(""),
  at: z.string().max(60).default("").describe("Which of that part's places, by id; empty for its own"),
  items: z.array(otherItemRef).max(200).default([]).describe("What is brought in of it, in order"),
  faces: z.array(otherFaceRef).max(500).default([]).describe("Faces of its bodies, as sheets"),
  sheets: z.enum(["one", "each"]).default("one").describe("faces: one sheet of all that hang together, or one of each"),
  edges: z.array(otherEdgeRef).max(500).default([]).describe("Edges of its bodies that lie in one plane, as a drawing"),
  loose: z.boolean().default(false).describe("A copy of its own, that is never behind what it was taken from"),
  taken: takenSchema.nullable().default(null),
});

/** Bodies, sheets, curves and planes of another part, at the place where they stand in the job. */
export const bringIn = declareStep({
  type: "bring-in",
  schema,
  words: {
    label: "Bring in",
    line: "Bodies, faces, edges and drawings of another part, where they stand: linked to it, or loose",
    stage: "fit",
  },
  // Which of its states it is of, and how that lies, is known by what is brought in.
  asides: ["at", "loose", "taken"],
  fields: [
    { key: "part", kind: "part", label: "Of the part" },
    { key: "at", kind: "place", label: "From its place", of: "part" },
    { key: "items", kind: "elsewhere", label: "What is brought in", of: "part" },
    { key: "faces", kind: "other-faces", label: "Faces, as sheets", of: "part" },
    {
      key: "sheets",
      kind: "choice",
      label: "Sheets of",
      options: [
        { value: "one", label: "All that hang together" },
        { value: "each", label: "Each face" },
      ],
      when: { key: "faces", any: ["faces"] },
    },
    { key: "edges", kind: "other-edges", label: "Edges in one plane, as a drawing", of: "part" },
    { key: "loose", kind: "toggle", label: "Loose: a copy of now, not linked" },
  ],
});
