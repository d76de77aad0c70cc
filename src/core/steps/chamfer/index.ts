import { z } from "zod";
import { cutEdges } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { edgesField, workEdges } from "../edge-work";
import { defineStep } from "../step";

const schema = z.object({
  edges: edgesField,
  kind: z.enum(["equal", "two"]).default("equal"),
  distance: lengthField({ above: 0 }).default(2).describe("From the edge on both faces, mm; two: on one of them"),
  second: lengthField({ above: 0 }).default(2).describe("two: on the other face, mm"),
  flip: z.boolean().default(false).describe("two: the other face first"),
});

/** Edges cut off flat. */
export const chamfer = defineStep({
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
  refs: (values) => values.edges.map((ref) => ref.body),
  changes: (values) => values.edges.map((ref) => ref.body),
  resolved: ({ edges, kind, distance, second, flip }) => ({
    edges,
    kind,
    distance: toMm(distance),
    second: kind === "two" ? toMm(second) : 0,
    flip: kind === "two" && flip,
  }),
  weighed: () => true,
  evaluate(values, context) {
    const share = values.kind === "two" ? toMm(values.second) / toMm(values.distance) : 1;
    return workEdges(
      [{ refs: values.edges, size: toMm(values.distance), field: "distance" }],
      {
        word: "bevel",
        noun: "chamfer",
        work: ({ shape }, groups) =>
          cutEdges(
            shape,
            groups.flatMap(({ places, size }) =>
              places.map((place) => {
                const [first, second] = values.flip ? [size * share, size] : [size, size * share];
                return { place, first, second };
              }),
            ),
          ),
      },
      context,
    );
  },
});
