import { z } from "zod";
import { fail } from "../../errors";
import { add, scale, subshapePlanes, type Vec3 } from "../../kernel";
import { faceRefSchema } from "../../naming";
import { lengthField, toMm } from "../../params";
import { defineStep } from "../step";

const schema = z.object({
  base: z.enum(["xy", "yz", "zx", "face"]).default("xy"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The planar face, when base is face"),
  offset: lengthField().default(0).describe("Along the normal, mm"),
  flip: z.boolean().default(false).describe("Turn the front to the other side"),
});

const NORMALS: Record<"xy" | "yz" | "zx", Vec3> = { xy: [0, 0, 1], yz: [1, 0, 0], zx: [0, 1, 0] };

/** An endless plane to cut with. */
export const workplane = defineStep({
  type: "workplane",
  schema,
  words: {
    label: "Workplane",
    line: "An endless plane: a principal one or a flat face, moved along its normal",
    stage: "draw",
  },
  fields: [
    {
      key: "base",
      kind: "choice",
      label: "From",
      options: [
        { value: "xy", label: "XY, level" },
        { value: "yz", label: "YZ" },
        { value: "zx", label: "ZX" },
        { value: "face", label: "A flat face" },
      ],
    },
    {
      key: "face",
      kind: "faces",
      label: "Flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: { key: "base", is: ["face"] },
    },
    { key: "offset", kind: "length", label: "Offset" },
    { key: "flip", kind: "toggle", label: "Front to the other side" },
  ],
  refs: (values) => (values.base === "face" ? values.face.map((ref) => ref.body) : []),
  resolved: (values) => ({
    base: values.base,
    face: values.base === "face" ? values.face : [],
    offset: toMm(values.offset),
    flip: values.flip,
  }),
  evaluate(values, context) {
    let origin: Vec3 = [0, 0, 0];
    let normal: Vec3;
    if (values.base === "face") {
      const ref = values.face[0];
      if (!ref) fail("nothing-picked", "Pick the flat face that the workplane starts from.", { step: context.step });
      const { body, face } = context.face(ref);
      const plane = subshapePlanes(body.shape)[face];
      if (!plane)
        fail("not-flat", "The picked face is not flat. Pick a flat one.", { step: context.step, bodies: [body.id] });
      origin = plane.origin;
      normal = plane.normal;
    } else normal = NORMALS[values.base];
    origin = add(origin, scale(normal, toMm(values.offset)));
    return {
      made: [
        {
          id: `${context.step}:plane`,
          kind: "workplane",
          origin,
          normal: values.flip ? scale(normal, -1) : normal,
          hint: { text: "Workplane" },
        },
      ],
      used: [],
    };
  },
});
