import * as z from "zod";
import { angleField, lengthField, numberField } from "../../params";
import { cornerRefSchema, edgeRefSchema, faceRefSchema, itemRef } from "../../references";
import { declareStep } from "../declare";
import { PLANE_OPTIONS, PRINCIPAL } from "../shared/plane/declare";

const schema = z.object({
  base: z
    .enum([
      ...PRINCIPAL,
      "face",
      "workplane",
      "edge",
      "points",
      "midway",
      "tangent",
      "curve",
      "square",
      "parallel",
      "normal",
      "turned",
    ])
    .default("xy")
    .describe("How the plane is found: a principal one, or from what is picked"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The planar face (cylindrical for tangent, any for square)"),
  plane: z.array(itemRef).max(1).default([]).describe("Another workplane, when base or parallelTo is workplane"),
  edge: z.array(edgeRefSchema).max(1).default([]).describe("A straight edge (edge), or the curve (curve)"),
  corners: z.array(cornerRefSchema).max(3).default([]).describe("Three corners (points), or the one (parallel)"),
  faces: z.array(faceRefSchema).max(2).default([]).describe("The two planar faces of midway"),
  parallelTo: z.enum([...PRINCIPAL, "face", "workplane"]).default("xy"),
  otherHalf: z.boolean().default(false).describe("midway of faces at an angle: the other plane that halves it"),
  normal: z
    .tuple([numberField(), numberField(), numberField()])
    .default([0, 0, 1])
    .describe("normal: the way in which its front looks, of any length"),
  axis: z.enum(["x", "y", "z"]).default("x").describe("turned: about a line along this"),
  through: z
    .tuple([lengthField(), lengthField(), lengthField()])
    .default([0, 0, 0])
    .describe("normal: a point of the plane; turned: a point of the axis; square: the place on the face, or near it"),
  angle: angleField()
    .default(0)
    .describe(
      "edge: from the face's plane; tangent: round the axis, from X; turned: right-handed about the axis; square: about the way in which the face looks there",
    ),
  along: lengthField({ min: 0 }).default(0).describe("curve: distance along it from where it begins, mm"),
  offset: lengthField().default(0).describe("Along the normal, mm"),
  flip: z.boolean().default(false).describe("Turn the front to the other side"),
});

/** An endless plane to cut with and to draw on. */
export const workplane = declareStep({
  type: "workplane",
  schema,
  words: {
    label: "Workplane",
    line: "An endless plane to cut with: level, on a face, aslant about an edge, midway, touching …",
    stage: "draw",
  },
  fields: [
    {
      key: "base",
      kind: "choice",
      label: "From",
      options: [
        ...PLANE_OPTIONS,
        { value: "edge", label: "An edge, at an angle" },
        { value: "points", label: "Three corners" },
        { value: "midway", label: "Midway" },
        { value: "tangent", label: "Touching a cylinder" },
        { value: "curve", label: "Square to a curve" },
        { value: "square", label: "Square to a face" },
        { value: "parallel", label: "Through a corner" },
        { value: "normal", label: "A direction" },
        { value: "turned", label: "Turned about an axis" },
      ],
    },
    {
      key: "parallelTo",
      kind: "choice",
      label: "Parallel to",
      options: PLANE_OPTIONS,
      when: { key: "base", is: ["parallel"] },
    },
    {
      key: "parallelTo",
      kind: "choice",
      label: "Turned is",
      options: PLANE_OPTIONS,
      when: { key: "base", is: ["turned"] },
    },
    {
      key: "normal",
      kind: "point",
      label: "Its front looks along",
      help: "Any length: 1, 0, 1 is half-way between right and up",
      plain: true,
      when: { key: "base", is: ["normal"] },
    },
    { key: "through", kind: "point", label: "Through the point", when: { key: "base", is: ["normal"] } },
    {
      key: "axis",
      kind: "choice",
      label: "About",
      options: [
        { value: "x", label: "X" },
        { value: "y", label: "Y" },
        { value: "z", label: "Z" },
      ],
      when: { key: "base", is: ["turned"] },
    },
    { key: "through", kind: "point", label: "The axis goes through", when: { key: "base", is: ["turned"] } },
    {
      key: "face",
      kind: "faces",
      label: "Flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: { key: "base", is: ["face"] },
    },
    {
      key: "face",
      kind: "faces",
      label: "The flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: [
        { key: "base", is: ["parallel", "turned"] },
        { key: "parallelTo", is: ["face"] },
      ],
    },
    {
      key: "face",
      kind: "faces",
      label: "Face",
      help: "The plane stands square on it",
      accepts: "any",
      min: 1,
      max: 1,
      when: { key: "base", is: ["square"] },
    },
    { key: "through", kind: "point", label: "At the place on it", when: { key: "base", is: ["square"] } },
    {
      key: "plane",
      kind: "bodies",
      label: "Workplane",
      accepts: ["plane"],
      min: 1,
      max: 1,
      when: { key: "base", is: ["workplane"] },
    },
    {
      key: "plane",
      kind: "bodies",
      label: "The workplane",
      accepts: ["plane"],
      min: 1,
      max: 1,
      when: [
        { key: "base", is: ["parallel", "turned"] },
        { key: "parallelTo", is: ["workplane"] },
      ],
    },
    {
      key: "edge",
      kind: "edges",
      label: "Straight edge",
      accepts: "line",
      min: 1,
      max: 1,
      when: { key: "base", is: ["edge"] },
    },
    {
      key: "face",
      kind: "faces",
      label: "Angle counted from",
      help: "A flat face along the edge; without one, the edge's own",
      accepts: "plane",
      min: 0,
      max: 1,
      when: { key: "base", is: ["edge"] },
    },
    {
      key: "edge",
      kind: "edges",
      label: "Curve",
      accepts: "any",
      min: 1,
      max: 1,
      when: { key: "base", is: ["curve"] },
    },
    { key: "along", kind: "length", label: "Along it from where it begins", when: { key: "base", is: ["curve"] } },
    {
      key: "face",
      kind: "faces",
      label: "Cylinder",
      accepts: "cylinder",
      min: 1,
      max: 1,
      when: { key: "base", is: ["tangent"] },
    },
    {
      key: "faces",
      kind: "faces",
      label: "Two flat faces",
      accepts: "plane",
      min: 2,
      max: 2,
      when: { key: "base", is: ["midway"] },
    },
    { key: "otherHalf", kind: "toggle", label: "Halve the angle the other way", when: { key: "base", is: ["midway"] } },
    { key: "corners", kind: "corners", label: "Three corners", min: 3, max: 3, when: { key: "base", is: ["points"] } },
    {
      key: "corners",
      kind: "corners",
      label: "Through the corner",
      min: 1,
      max: 1,
      when: { key: "base", is: ["parallel"] },
    },
    { key: "angle", kind: "angle", label: "Angle", when: { key: "base", is: ["edge", "tangent", "turned", "square"] } },
    { key: "offset", kind: "length", label: "Offset" },
    { key: "flip", kind: "toggle", label: "Front to the other side" },
  ],
});
