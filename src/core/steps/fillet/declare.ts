import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { edgesField } from "../shared/edges/declare";
import { firstSets, setsChoice, setsField, whenSet } from "../shared/sets";

const radiusField = () => lengthField({ above: 0 });

const schema = z.object({
  edges: edgesField,
  radius: radiusField().default(2).describe("mm"),
  radii: setsField().describe("How many radii: where edges meet, all are rounded at once"),
  edges2: edgesField.describe("two, three: the edges of the second radius"),
  radius2: radiusField().default(4).describe("mm"),
  edges3: edgesField.describe("three: the edges of the third radius"),
  radius3: radiusField().default(1).describe("mm"),
});

export const groupsOf = ({ edges, radius, radii, edges2, radius2, edges3, radius3 }: Values) =>
  firstSets(
    [
      { refs: edges, size: radius, field: "radius" },
      { refs: edges2, size: radius2, field: "radius2" },
      { refs: edges3, size: radius3, field: "radius3" },
    ],
    radii,
  );

type Values = z.infer<typeof schema>;

/** Edges rounded by a rolling ball. */
export const fillet = declareStep({
  type: "fillet",
  schema,
  words: {
    label: "Fillet",
    line: "Edges rounded with one radius or several, and all that run smoothly on from them",
    stage: "shape",
  },
  fields: [
    { key: "edges", kind: "edges", label: "Edges", accepts: "any", min: 1 },
    { key: "radius", kind: "length", label: "Radius" },
    setsChoice("radii", "Radii"),
    ...(["2", "3"] as const).flatMap((n) => {
      const when = whenSet("radii", n);
      const word = n === "2" ? "Second" : "Third";
      return [
        {
          key: `edges${n}`,
          kind: "edges" as const,
          label: `Edges of the ${word.toLowerCase()} radius`,
          accepts: "any" as const,
          min: 0,
          when,
        },
        { key: `radius${n}`, kind: "length" as const, label: `${word} radius`, when },
      ];
    }),
  ],
  changes: (values) => groupsOf(values).flatMap(({ refs }) => refs.map((ref) => ref.body)),
});
