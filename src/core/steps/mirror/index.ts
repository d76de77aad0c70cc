import { z } from "zod";
import { fail } from "../../errors";
import { mirrored } from "../../kernel";
import { faceRefSchema } from "../../naming";
import { itemRef } from "../common";
import { copyOf, joinedWith } from "../copies";
import { facePlane, NORMALS, otherPlane, type Plane, PRINCIPAL } from "../planes";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  about: z.enum([...PRINCIPAL, "face", "workplane"]).default("yz"),
  face: z.array(faceRefSchema).max(1).default([]).describe("The flat face, when about is face"),
  plane: z.array(itemRef).max(1).default([]).describe("The workplane, when about is workplane"),
  join: z.boolean().default(false).describe("Each body and its image become one"),
  keep: z.boolean().default(true).describe("The original stays beside its image"),
});
type Values = z.infer<typeof schema>;

/** Bodies mirrored in a plane. */
export const mirror = defineStep({
  type: "mirror",
  schema,
  words: {
    label: "Mirror",
    line: "Bodies mirrored in a plane, by themselves or joined with their images",
    stage: "shape",
  },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["solid", "sheet"], min: 1 },
    {
      key: "about",
      kind: "choice",
      label: "In",
      options: [
        { value: "yz", label: "YZ" },
        { value: "zx", label: "ZX" },
        { value: "xy", label: "XY, level" },
        { value: "face", label: "A flat face" },
        { value: "workplane", label: "A workplane" },
      ],
    },
    {
      key: "face",
      kind: "faces",
      label: "Flat face",
      accepts: "plane",
      min: 1,
      max: 1,
      when: { key: "about", is: ["face"] },
    },
    {
      key: "plane",
      kind: "bodies",
      label: "Workplane",
      accepts: ["workplane"],
      min: 1,
      max: 1,
      when: { key: "about", is: ["workplane"] },
    },
    { key: "join", kind: "toggle", label: "Join with the image" },
    { key: "keep", kind: "toggle", label: "Keep the original", when: { key: "join", is: ["false"] } },
  ],
  refs: (values) => [
    ...values.bodies,
    ...(values.about === "face" ? values.face.map((ref) => ref.body) : []),
    ...(values.about === "workplane" ? values.plane : []),
  ],
  resolved: (values) => values,
  evaluate(values, context) {
    const { step } = context;
    const bodies = context.bodies(values.bodies);
    if (bodies.length === 0) fail("nothing-picked", "Pick the bodies to mirror.", { step });
    const { origin, normal } = planeOf(values, context);
    const images = bodies.map((body) =>
      copyOf(body, mirrored(body.shape, origin, normal), step, "image", values.keep ? "mirrored" : ""),
    );
    if (values.join)
      return joinedWith(
        bodies,
        images.map((image) => [image]),
        context,
      );
    return { made: images, used: values.keep ? [] : bodies.map(({ id }) => id) };
  },
});

function planeOf({ about, face, plane }: Values, context: StepContext): Plane {
  if (about === "face") return facePlane(face[0], "Pick the flat face to mirror in.", context);
  if (about === "workplane") return otherPlane(plane, "Pick the workplane to mirror in.", context);
  return { origin: [0, 0, 0], normal: NORMALS[about] };
}
