import { fail } from "../../errors";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { allFaceFacts, draftFaces, freeShape, scale } from "../../kernel";
import { faceNamesOf } from "../../naming";
import { toDegrees } from "../../params";
import { evaluates, type StepContext } from "../evaluation";
import { refuseBriefly } from "../shared/briefly";
import { largestThat } from "../shared/largest";
import { chosenPlane } from "../shared/plane/choose";
import type { Plane } from "../shared/plane/planes";
import { draft } from "./declare";

export const evaluateDraft = evaluates(draft, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    if (values.faces.length === 0) fail("nothing-picked", "Pick the faces to draft.", { step });
    const degrees = toDegrees(values.angle);
    if (degrees === 0) fail("no-angle", "The draft is nothing. Give an angle.", { step, field: "angle" });
    const plane = chosenPlane(values, "draft from", context);
    const byBody = new Map<Body, Set<number>>();
    for (const ref of values.faces) {
      const { body, faces } = context.faces(ref);
      byBody.set(body, new Set([...(byBody.get(body) ?? []), ...faces]));
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
  if (!has(body, "closed"))
    fail("needs-solids", `${name} is a sheet: only faces of solids can be drafted.`, { step, bodies: [body.id] });
  const pull = scale(normal, flip ? -1 : 1);
  const work = (by: number) => draftFaces(body.shape, faces, { at: origin, pull }, (by * Math.PI) / 180);
  const done = work(degrees);
  if (!("faulty" in done)) {
    const bases = done.origins.map(({ place }) => body.faces[place] ?? `${step}:side`);
    return { ...body, shape: done.shape, faces: faceNamesOf(done.shape, bases) };
  }
  refuseBriefly(context, "draft-closes", "angle", body.id);
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
