import * as z from "zod";
import { edgeRefSchema, faceRefSchema, itemRef } from "../../references";
import { constraintSchema, dimensionSchema, entitySchema } from "../../sketch/entities";
import { declareStep } from "../declare";
import { planeForm } from "../shared/plane/declare";

const MOST = 10_000;

const schema = z.object({
  on: z.enum(["xy", "yz", "zx", "face", "workplane"]).default("xy").describe("The plane that it is drawn in"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The planar face, when on is face"),
  plane: z.array(itemRef).max(1).default([]).describe("The workplane, when on is workplane"),
  edges: z.array(edgeRefSchema).max(500).default([]).describe("Edges of bodies, seen square to the plane, to draw by"),
  outlines: z.array(faceRefSchema).max(200).default([]).describe("Faces of bodies whose edges are seen so"),
  sections: z.array(itemRef).max(100).default([]).describe("Bodies whose section by the plane is given to draw by"),
  asOutlines: z.boolean().default(false).describe("Whether what bodies give makes outlines too, or only helps to draw"),
  entities: z.array(entitySchema).max(MOST).default([]).describe("What is drawn, where the solver last left it"),
  constraints: z.array(constraintSchema).max(MOST).default([]),
  dimensions: z.array(dimensionSchema).max(MOST).default([]),
});

/** A drawing in a plane: outlines for solids and sheets, and curves to cut with. */
export const sketch = declareStep({
  type: "sketch",
  schema,
  words: { label: "Sketch", line: "Outlines drawn in a plane, driven by dimensions", stage: "draw" },
  fields: [
    ...planeForm("Drawn on", [], "on"),
    { key: "dimensions", kind: "sketch", label: "Dimensions" },
    { key: "edges", kind: "edges", label: "Edges to draw by", accepts: "any", min: 0 },
    { key: "outlines", kind: "faces", label: "Faces to draw by", accepts: "any", min: 0 },
    { key: "sections", kind: "bodies", label: "Bodies cut by the plane", accepts: ["body"], min: 0 },
    {
      key: "asOutlines",
      kind: "toggle",
      label: "These make outlines, too",
    },
  ],
});
