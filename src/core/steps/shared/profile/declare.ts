import * as z from "zod";
import { faceRefSchema, itemRef } from "../../../references";
import type { Field } from "../../declare";

/** The values of a step that makes bodies of a profile: of a sketch, or of flat faces. */
export const profileFields = {
  of: z.enum(["sketch", "faces"]).default("sketch").describe("Where the profile comes from"),
  sketch: z.array(itemRef).max(1).default([]).describe("The sketch"),
  faces: z.array(faceRefSchema).max(100).default([]).describe("of faces: flat faces that lie in one plane"),
  regions: z
    .array(
      z
        .object({ key: z.string().max(5000), inner: z.tuple([z.number(), z.number()]).optional() })
        .describe("A region by the curves of its outline, each with the side it lies on, and a point that was in it"),
    )
    .max(2000)
    .default([])
    .describe("Its regions; none for all that are not holes"),
  as: z.enum(["solid", "sheet"]).default("solid").describe("sheet: of every curve, open or closed"),
};

/** The field of a form for whether a solid or a sheet is made. */
export const MAKES: Field = {
  key: "as",
  kind: "choice",
  label: "Makes",
  options: [
    { value: "solid", label: "A solid" },
    { value: "sheet", label: "A sheet" },
  ],
};

/** The fields of a form for what the profile is. */
export const PROFILE_OF: Field[] = [
  {
    key: "of",
    kind: "choice",
    label: "Profile",
    options: [
      { value: "sketch", label: "A sketch" },
      { value: "faces", label: "Flat faces" },
    ],
  },
  {
    key: "sketch",
    kind: "bodies",
    label: "Sketch",
    accepts: ["drawn"],
    min: 1,
    max: 1,
    when: { key: "of", is: ["sketch"] },
  },
  { key: "faces", kind: "faces", label: "Flat faces", accepts: "plane", min: 1, when: { key: "of", is: ["faces"] } },
];

/** The fields of a form for what is made of a profile, and of which regions. */
export const PROFILE_FORM: Field[] = [
  MAKES,
  {
    key: "regions",
    kind: "regions",
    of: "sketch",
    label: "Regions",
    when: [
      { key: "as", is: ["solid"] },
      { key: "of", is: ["sketch"] },
    ],
  },
];
