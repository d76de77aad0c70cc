import * as z from "zod";
import { faceRefSchema, itemRef } from "../../../references";
import type { Field, FieldCondition } from "../../declare";

/** The planes that every part has, by name: the last letter turned from the first is the normal's. */
export const PRINCIPAL = ["xy", "yz", "zx"] as const;

/** The values of a step that asks for a plane. */
export const planeFields = {
  about: z.enum([...PRINCIPAL, "face", "workplane"]).default("yz"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The flat face, when about is face"),
  plane: z.array(itemRef).max(1).default([]).describe("The workplane, when about is workplane"),
};

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
      accepts: ["plane"],
      min: 1,
      max: 1,
      when: [...when, { key, is: ["workplane"] }],
    },
  ];
}
