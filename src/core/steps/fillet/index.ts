import { z } from "zod";
import { roundEdges } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { edgesField, workEdges } from "../edge-work";
import { defineStep } from "../step";

const schema = z.object({
  edges: edgesField,
  radius: lengthField({ above: 0 }).default(2).describe("mm"),
});

/** Edges rounded by a rolling ball. */
export const fillet = defineStep({
  type: "fillet",
  schema,
  words: {
    label: "Fillet",
    line: "Edges rounded with a radius, and all that run smoothly on from them",
    stage: "shape",
  },
  fields: [
    { key: "edges", kind: "edges", label: "Edges", accepts: "any", min: 1 },
    { key: "radius", kind: "length", label: "Radius" },
  ],
  refs: (values) => values.edges.map((ref) => ref.body),
  resolved: (values) => ({ edges: values.edges, radius: toMm(values.radius) }),
  evaluate: (values, context) =>
    workEdges(
      values.edges,
      toMm(values.radius),
      {
        word: "round",
        noun: "radius",
        field: "radius",
        work: ({ shape }, places, radius) =>
          roundEdges(
            shape,
            places.map((place) => ({ place, radius })),
          ),
      },
      context,
    ),
});
