import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { edgesField } from "../shared/edges/declare";

const schema = z.object({
  edges: edgesField,
  kind: z.enum(["equal", "two"]).default("equal"),
  distance: lengthField({ above: 0 }).default(2).describe("From the edge on both faces, mm; two: on one of them"),
  second: lengthField({ above: 0 }).default(2).describe("two: on the other face, mm"),
  flip: z.boolean().default(false).describe("two: the other face first"),
});

/** Edges cut off flat. */
export const chamfer = declareStep({
  type: "chamfer",
  schema,
  words: { label: "Chamfer", line: "Edges cut off flat, and all that run smoothly on from them", stage: "shape" },
  fields: [
    { key: "edges", kind: "edges", label: "Edges", accepts: "any", min: 1 },
    {
      key: "kind",
      kind: "choice",
      label: "Cut",
      options: [
        { value: "equal", label: "Evenly" },
        { value: "two", label: "By two distances" },
      ],
    },
    { key: "distance", kind: "length", label: "Distance" },
    { key: "second", kind: "length", label: "On the other face", when: { key: "kind", is: ["two"] } },
    { key: "flip", kind: "toggle", label: "The other way round", when: { key: "kind", is: ["two"] } },
  ],
  changes: (values) => values.edges.map((ref) => ref.body),
});
