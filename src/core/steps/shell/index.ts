import { z } from "zod";
import { fail } from "../../errors";
import { freeShape, type Hollowed, hollowOut } from "../../kernel";
import { type Body, faceNamesOf, faceRefSchema } from "../../naming";
import { lengthField, toMm } from "../../params";
import { formatLength } from "../../units";
import { itemRef } from "../common";
import { largestThat } from "../largest";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("The solid that is hollowed"),
  open: z.array(faceRefSchema).max(200).default([]).describe("Faces of it that are left open; none for a closed void"),
  thickness: lengthField({ above: 0 }).default(2).describe("Of the walls, mm"),
  outward: z.boolean().default(false).describe("The walls go outside of what is there, which becomes the hollow"),
});

/** A solid hollowed to walls of one thickness. */
export const shell = defineStep({
  type: "shell",
  schema,
  words: {
    label: "Shell",
    line: "A solid hollowed to walls of one thickness, open where faces are picked",
    stage: "shape",
  },
  fields: [
    { key: "body", kind: "bodies", label: "Solid", accepts: ["solid"], min: 1, max: 1 },
    { key: "open", kind: "faces", label: "Open faces", accepts: "any", min: 0, help: "None: a closed void inside" },
    { key: "thickness", kind: "length", label: "Thickness of the walls" },
    { key: "outward", kind: "toggle", label: "Walls outside" },
  ],
  refs: (values) => [...values.body, ...values.open.map((ref) => ref.body)],
  resolved: (values) => ({ ...values, thickness: toMm(values.thickness) }),
  evaluate(values, context) {
    const { step } = context;
    const [body] = context.bodies(values.body);
    if (body?.kind !== "solid") fail("nothing-picked", "Pick the solid to hollow.", { step });
    const open = values.open.map((ref) => {
      const { body: owner, face } = context.face(ref);
      if (owner.id !== body.id)
        fail(
          "other-body",
          `An open face is not of ${context.nameOf(body.id)}. Pick faces of the solid that is hollowed.`,
          {
            step,
            bodies: [owner.id],
          },
        );
      return face;
    });
    if (open.length === body.faces.length)
      fail("all-open", "Every face is left open, so no wall is left. Leave one or more closed.", { step });
    const thickness = toMm(values.thickness);
    const done = hollowOut(body.shape, open, thickness, values.outward);
    if ("tight" in done) refuse(body, open, thickness, values.outward, done.tight, context);
    const bases = done.faces.map(({ is, place }) => {
      const name = body.faces[place]!;
      return is === "old" ? name : `${step}:${is === "rim" ? "rim" : "wall"}:${name}`;
    });
    const faces = faceNamesOf(done.shape, bases);
    return { made: [{ ...body, shape: done.shape, faces }], used: [body.id] };
  },
});

function refuse(
  body: Body,
  open: readonly number[],
  thickness: number,
  outward: boolean,
  tight: Extract<Hollowed, { tight: unknown }>["tight"],
  context: StepContext,
): never {
  const { step } = context;
  const fits = (trial: number): boolean => {
    const done = hollowOut(body.shape, open, trial, outward);
    if ("tight" in done) return false;
    freeShape(done.shape);
    return true;
  };
  const most = largestThat(fits, thickness);
  const where =
    tight.length === 0
      ? ""
      : ` ${tight.length === 1 ? "At one face" : `At ${tight.length} faces`} less than ${formatLength(2 * thickness)} lies behind the skin.`;
  fail(
    "shell-tight",
    `${context.nameOf(body.id)} cannot be hollowed to walls of ${formatLength(thickness)}.${where}${most === null ? " Open another face, or round its edges afterwards." : ` Up to ${formatLength(most)} fits.`}`,
    {
      step,
      field: "thickness",
      bodies: [body.id],
      ...(tight[0] ? { at: [...tight[0].at] as [number, number, number] } : {}),
      ...(most === null ? {} : { repair: { label: `Make it ${formatLength(most)}`, step, set: { thickness: most } } }),
    },
  );
}
