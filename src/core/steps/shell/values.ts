import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { planeFields } from "../shared/plane/declare";
import { setsField } from "../shared/sets";

const facesField = z.array(faceRefSchema).max(200).default([]);
const wallField = () => lengthField({ above: 0 });

export const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("The solid that is hollowed"),
  open: facesField.describe("Faces of it that are left open; none for a closed void"),
  thickness: wallField().default(2).describe("Of the walls, mm"),
  outward: z.boolean().default(false).describe("The walls go outside of what is there, which becomes the hollow"),
  how: z
    .enum(["even", "smaller"])
    .default("even")
    .describe(
      "even: each wall as thick as said; smaller: the hollow is the body made smaller, with walls at least so thick",
    ),
  walls: setsField().describe("How many thicknesses there are"),
  faces2: facesField.describe("two, three: faces with walls of the second thickness"),
  thickness2: wallField().default(4).describe("mm"),
  faces3: facesField.describe("three: faces with walls of the third thickness"),
  thickness3: wallField().default(3).describe("mm"),
  part: z
    .enum(["all", "front", "back"])
    .default("all")
    .describe("What is hollowed: all, or what lies on one side of a plane"),
  ...planeFields,
});
export type ShellValues = z.infer<typeof schema>;
