import { z } from "zod";
import { faceRefSchema } from "../naming";
import { itemRef } from "./common";
import { facePlane, NORMALS, otherPlane, type Plane, PRINCIPAL } from "./planes";
import type { Field, FieldCondition, StepContext } from "./step";

/** The values of a step that asks for a plane. */
export const planeFields = {
  about: z.enum([...PRINCIPAL, "face", "workplane"]).default("yz"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The flat face, when about is face"),
  plane: z.array(itemRef).max(1).default([]).describe("The workplane, when about is workplane"),
};

interface Values {
  about: (typeof PRINCIPAL)[number] | "face" | "workplane";
  face: z.infer<(typeof planeFields)["face"]>;
  plane: string[];
}

/** The planes to choose from, as every form puts them. */
export const PLANE_OPTIONS = [
  { value: "xy", label: "XY, level" },
  { value: "yz", label: "YZ" },
  { value: "zx", label: "ZX" },
  { value: "face", label: "A flat face" },
  { value: "workplane", label: "A workplane" },
];

/** The fields of a form that ask for a plane. @param when shown only then. @param key of the choice. */
export function planeForm(label: string, when: FieldCondition[] = [], key = "about"): Field[] {
  return [
    { key, kind: "choice", label, options: PLANE_OPTIONS, when },
    {
      key: "face",
      kind: "faces",
      label: "Flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: [...when, { key, is: ["face"] }],
    },
    {
      key: "plane",
      kind: "bodies",
      label: "Workplane",
      accepts: ["workplane"],
      min: 1,
      max: 1,
      when: [...when, { key, is: ["workplane"] }],
    },
  ];
}

/** What the plane needs: references of a step's values. */
export const planeRefs = ({ about, face, plane }: Values): string[] =>
  about === "face" ? face.map((ref) => ref.body) : about === "workplane" ? plane : [];

/** The plane that was chosen. @param verb what is done with it, for who picked none. @throws SeamError */
export function chosenPlane({ about, face, plane }: Values, verb: string, context: StepContext): Plane {
  if (about === "face") return facePlane(face[0], `Pick the flat face to ${verb}.`, context);
  if (about === "workplane") return otherPlane(plane, `Pick the workplane to ${verb}.`, context);
  return { origin: [0, 0, 0], normal: NORMALS[about] };
}
