import { z } from "zod";
import { fail } from "../../errors";
import { allFaceFacts, draftFaces, freeShape, scale } from "../../kernel";
import { type Body, faceNamesOf, faceRefSchema } from "../../naming";
import { angleField, toDegrees } from "../../params";
import { largestThat } from "../largest";
import { chosenPlane, planeFields, planeForm, planeRefs } from "../plane-choice";
import type { Plane } from "../planes";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  faces: z
    .array(faceRefSchema)
    .max(500)
    .default([])
    .describe("The faces; what runs smoothly on from them is drafted, too"),
  ...planeFields,
  about: planeFields.about.default("xy").describe("The neutral plane: what lies in it stays where it is"),
  angle: angleField({ min: -85, max: 85 })
    .default(2)
    .describe("Above 0: less material the way the plane's front looks"),
  flip: z.boolean().default(false).describe("Less material the other way"),
});

/** Faces tilted about where they meet a plane, so that a casting leaves its mould. */
export const draft = defineStep({
  type: "draft",
  schema,
  words: {
    label: "Draft faces",
    line: "Faces tilted from a neutral plane on, so that a casting leaves its mould",
    stage: "shape",
  },
  fields: [
    { key: "faces", kind: "faces", label: "Faces", accepts: "any", min: 1 },
    ...planeForm("Neutral plane"),
    { key: "angle", kind: "angle", label: "Draft" },
    { key: "flip", kind: "toggle", label: "The other way round" },
  ],
  refs: (values) => [...values.faces.map((ref) => ref.body), ...planeRefs(values)],
  changes: (values) => values.faces.map((ref) => ref.body),
  resolved: (values) => ({ ...values, angle: toDegrees(values.angle) }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.faces.length === 0) fail("nothing-picked", "Pick the faces to draft.", { step });
    const degrees = toDegrees(values.angle);
    if (degrees === 0) fail("no-angle", "The draft is nothing. Give an angle.", { step, field: "angle" });
    const plane = chosenPlane(values, "draft from", context);
    const byBody = new Map<Body, Set<number>>();
    for (const ref of values.faces) {
      const { body, face } = context.face(ref);
      byBody.set(body, (byBody.get(body) ?? new Set()).add(face));
    }
    const made: Body[] = [];
    try {
      for (const [body, faces] of byBody) made.push(drafted(body, [...faces], plane, degrees, values.flip, context));
    } catch (cause) {
      for (const { shape } of made) freeShape(shape);
      throw cause;
    }
    return { made, used: made.map(({ id }) => id) };
  },
});

function drafted(
  body: Body,
  faces: readonly number[],
  { origin, normal }: Plane,
  degrees: number,
  flip: boolean,
  context: StepContext,
): Body {
  const { step } = context;
  const name = context.nameOf(body.id);
  if (body.kind !== "solid")
    fail("needs-solids", `${name} is a sheet: only faces of solids can be drafted.`, { step, bodies: [body.id] });
  const pull = scale(normal, flip ? -1 : 1);
  const work = (by: number) => draftFaces(body.shape, faces, { at: origin, pull }, (by * Math.PI) / 180);
  const done = work(degrees);
  if (!("faulty" in done)) {
    const bases = done.origins.map(({ place }) => body.faces[place] ?? `${step}:side`);
    return { ...body, shape: done.shape, faces: faceNamesOf(done.shape, bases) };
  }
  const most = largestThat((trial) => {
    const tried = work(trial * Math.sign(degrees));
    if ("faulty" in tried) return false;
    freeShape(tried.shape);
    return true;
  }, Math.abs(degrees));
  const at = allFaceFacts(body.shape)[done.faulty[0] ?? faces[0]!]!.centre;
  const fits = most === null ? null : most * Math.sign(degrees);
  fail(
    "draft-closes",
    fits === null
      ? `These faces of ${name} cannot be drafted from this plane: each has to cross it or lie to one side, be flat or cylindrical, and not lie along it.`
      : `With a draft of ${degrees}° faces of ${name} meet, or one closes. Up to ${fits}° fits.`,
    {
      step,
      field: "angle",
      bodies: [body.id],
      at: [...at] as [number, number, number],
      ...(fits === null ? {} : { repair: { label: `Make it ${fits}°`, step, set: { angle: fits } } }),
    },
  );
}
