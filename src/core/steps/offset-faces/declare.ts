import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema } from "../../references";
import { declareStep, type Field } from "../declare";
import { setsChoice, setsField, whenSet } from "../shared/sets";

const facesField = z.array(faceRefSchema).max(500).default([]);
const distanceField = (mm: number) => lengthField().default(mm);

const schema = z.object({
  faces: facesField.describe("Faces of one solid"),
  distance: distanceField(1).describe("How far they are moved along their normals, mm: outwards where above 0"),
  smooth: z.boolean().default(false).describe("Whether what runs smoothly on from picked faces is moved with them"),
  sets: setsField().describe("How many distances there are"),
  faces2: facesField.describe("two, three: faces that are moved by the second distance"),
  distance2: distanceField(0.5).describe("mm"),
  faces3: facesField.describe("three: faces that are moved by the third distance"),
  distance3: distanceField(0.25).describe("mm"),
});

/** Faces of a solid moved along their normals, with the faces beside them run on or cut back to meet them. */
export const offsetFacesStep = declareStep({
  type: "offset-faces",
  schema,
  words: {
    label: "Offset faces",
    line: "Faces of a solid moved out or in; those beside them run on to meet them",
    stage: "fit",
  },
  fields: [
    { key: "faces", kind: "faces", label: "Faces", accepts: "any", min: 1, rules: true },
    { key: "distance", kind: "length", label: "Distance", help: "Outwards; inwards when negative" },
    {
      key: "smooth",
      kind: "toggle",
      label: "With what runs smoothly on",
      help: "Roundings and all faces that go on from the picked ones without an edge",
    },
    setsChoice("sets", "Distances"),
    ...(["2", "3"] as const).flatMap((n): Field[] => {
      const when = whenSet("sets", n);
      const word = n === "2" ? "Second" : "Third";
      return [
        {
          key: `faces${n}`,
          kind: "faces",
          label: `Faces of the ${word.toLowerCase()} distance`,
          accepts: "any",
          min: 0,
          rules: true,
          when,
        },
        { key: `distance${n}`, kind: "length", label: `${word} distance`, when },
      ];
    }),
  ],
  changes: (values) => values.faces.map((ref) => ref.body),
});
