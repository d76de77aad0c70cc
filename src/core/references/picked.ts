import * as z from "zod";
import { partReferences, references } from "./marks";

const vec3 = z.tuple([z.number(), z.number(), z.number()]);

/** What a face was when it was picked: kind, size, place. Any part may be left out when written by hand. */
export const fingerprintSchema = z.object({
  kind: z.string().optional(),
  area: z.number().optional(),
  centre: vec3.optional(),
  direction: vec3.optional(),
  radius: z.number().optional(),
});
export type Fingerprint = z.infer<typeof fingerprintSchema>;

/**
 * Rules by which a face brings others of its body along: what runs smoothly on from it, the pocket or the boss that it is of, round
 * faces of its kind and radius, flat faces that look its way.
 */
export const FACE_RULES = ["smooth", "pocket", "boss", "radius", "facing"] as const;
export type FaceRule = (typeof FACE_RULES)[number];

/** A face by its body and name, with a fingerprint to find it again should the name be lost. */
export const faceRefSchema = references.add(pickedFace(), { of: "face" });

/** A face of a body of another part. */
export const otherFaceRef = partReferences.add(pickedFace(), { of: "item" });
export type FaceRef = z.infer<typeof faceRefSchema>;

/** An edge by its body and name, with what it was when it was picked: kind, length, a point on it. */
export const edgeRefSchema = references.add(pickedEdge(), { of: "edge" });

/** An edge of a body of another part. */
export const otherEdgeRef = partReferences.add(pickedEdge(), { of: "item" });
export type EdgeRef = z.infer<typeof edgeRefSchema>;

/** A corner of a body by its name, with where it was when it was picked. */
export const cornerRefSchema = references.add(
  z
    .object({
      body: z.string().min(1),
      corner: z.string().optional(),
      print: z.object({ at: vec3 }).optional().describe("Where the corner is, to find it by"),
    })
    .refine((ref) => ref.corner !== undefined || ref.print !== undefined, {
      message: "A corner needs its name (corner) or its place (print).",
    }),
  { of: "corner" },
);
export type CornerRef = z.infer<typeof cornerRefSchema>;

// Each use of them is marked in a way of its own.
function pickedFace() {
  return z
    .object({
      body: z.string().min(1),
      face: z.string().optional(),
      print: fingerprintSchema.optional(),
      with: z
        .enum(FACE_RULES)
        .optional()
        .describe("The faces that come with it, by a rule; only where a step takes any number of faces"),
    })
    .refine((ref) => ref.face !== undefined || ref.print !== undefined, {
      message: "A face needs its name (face) or a description of it (print).",
    });
}

function pickedEdge() {
  return z
    .object({
      body: z.string().min(1),
      edge: z.string().optional(),
      print: z
        .object({ kind: z.string().optional(), length: z.number().optional(), at: vec3.optional() })
        .optional()
        .describe("What the edge is, to find it by: any part may be left out"),
    })
    .refine((ref) => ref.edge !== undefined || ref.print !== undefined, {
      message: "An edge needs its name (edge) or a description of it (print).",
    });
}
