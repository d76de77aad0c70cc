import { z } from "zod";
import { fail } from "../../errors";
import type { PlaneFrame } from "../../kernel";
import { edgeRefSchema, faceRefSchema } from "../../naming";
import { constraintSchema, dimensionSchema, entitySchema, flatLine, SketchFault, solveSketch } from "../../sketch";
import { itemRef } from "../common";
import { chosenPlane, planeForm, planeRefs } from "../plane-choice";
import { framed } from "../planes";
import { defineStep, type StepContext } from "../step";
import { givenBy } from "./given";

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
type Values = z.infer<typeof schema>;

/** A drawing in a plane: outlines for solids and sheets, and curves to cut with. */
export const sketch = defineStep({
  type: "sketch",
  schema,
  words: { label: "Sketch", line: "Outlines drawn in a plane, driven by dimensions", stage: "draw" },
  fields: [
    ...planeForm("Drawn on", [], "on"),
    { key: "dimensions", kind: "sketch", label: "Dimensions" },
    { key: "edges", kind: "edges", label: "Edges to draw by", accepts: "any", min: 0 },
    { key: "outlines", kind: "faces", label: "Faces to draw by", accepts: "any", min: 0 },
    { key: "sections", kind: "bodies", label: "Bodies cut by the plane", accepts: ["solid", "sheet"], min: 0 },
    {
      key: "asOutlines",
      kind: "toggle",
      label: "These make outlines, too",
    },
  ],
  refs: (values) => [
    ...planeRefs({ ...values, about: values.on }),
    ...values.edges.map((ref) => ref.body),
    ...values.outlines.map((ref) => ref.body),
    ...values.sections,
  ],
  resolved: ({ on, face, plane, ...drawing }) => ({
    on,
    face: on === "face" ? face : [],
    plane: on === "workplane" ? plane : [],
    ...drawing,
  }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const frame = frameOf(values, context);
    const given = givenBy(values, frame, context);
    let state: ReturnType<typeof solveSketch>;
    try {
      state = solveSketch({ ...values, given }, (dimension) => Number(dimension.value));
    } catch (cause) {
      if (cause instanceof SketchFault) fail("sketch-fault", cause.message, { step });
      throw cause;
    }
    const [first] = state.conflicts;
    if (!state.met)
      fail(
        "sketch-conflict",
        first
          ? upper(first.message)
          : "The sizes of this sketch cannot all be reached from where it stands. Change one, or drag it nearer.",
        { step },
      );
    const flat = flatLine(state);
    if (flat)
      context.warn({
        code: "line-flat",
        message: `“${flat}” has no length, so it draws nothing. Pull its ends apart, or take it out.`,
        step,
      });
    for (const conflict of state.conflicts)
      context.warn({ code: "sketch-repeats", message: upper(conflict.message), step });
    return {
      made: [
        {
          id: `${step}:sketch`,
          kind: "sketch",
          frame,
          entities: [...state.entities, ...given],
          given,
          hint: { text: "Sketch" },
        },
      ],
      used: [],
    };
  },
});

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function frameOf({ on, face, plane }: Values, context: StepContext): PlaneFrame {
  const { origin, normal } = chosenPlane({ about: on, face, plane }, "draw on", context);
  return framed(origin, normal);
}
