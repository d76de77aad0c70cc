import * as z from "zod";
import { angleField, lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { intoFields } from "../shared/into/declare";
import { profileFields } from "../shared/profile/declare";

export const schema = z.object({
  ...profileFields,
  extent: z.enum(["distance", "symmetric", "two", "through", "both", "to", "next"]).default("distance"),
  distance: lengthField({ above: 0 }).default(10).describe("Along the normal of the sketch, mm; symmetric: in all"),
  second: lengthField({ min: 0 }).default(10).describe("two: against the normal, mm"),
  flip: z.boolean().default(false).describe("Against the normal of the sketch"),
  from: lengthField().default(0).describe("Where it begins: over the sketch's plane, the way it goes, mm"),
  to: z.enum(["face", "workplane", "body"]).default("face").describe("to: what it ends at"),
  toFace: z.array(faceRefSchema).max(1).default([]).describe("to a face; a flat one is endless"),
  toPlane: z.array(itemRef).max(1).default([]).describe("to a workplane"),
  toBody: z.array(itemRef).max(50).default([]).describe("to a body, or several: where it first meets them"),
  draft: angleField({ min: -85, max: 85 })
    .default(0)
    .describe("Of its sides, from the sketch's plane on; above 0: narrower"),
  ...intoFields,
});
export type ExtrudeValues = z.infer<typeof schema>;
