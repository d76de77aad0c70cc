import { fail } from "../../errors";
import { type ClearanceFault, clearanceCopy } from "../../fit/clearance";
import type { Body } from "../../items";
import { has } from "../../items/kinds";
import { allFaceFacts, freeFacesOf, freeShape } from "../../kernel";
import { faceNamesOf } from "../../naming";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { formatDeviation, formatLength } from "../../units";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { refuseBriefly } from "../shared/briefly";
import { tellGone } from "../shared/faces-gone";
import { largestThat, withWhatFits } from "../shared/largest";
import { clearance } from "./declare";

type Values = ValuesOf<typeof clearance>;

export const evaluateClearance = evaluates(clearance, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const [body] = context.bodies(values.body);
    if (!body || !has(body, "closed")) fail("nothing-picked", "Pick the solid to copy.", { step, field: "body" });
    const by = toMm(values.distance);
    if (Math.abs(by) < SAME_PLACE)
      fail("no-distance", "The copy would be as the solid is. Give a distance.", { step, field: "distance" });
    const made = clearanceCopy(body, by, values.corners);
    if ("why" in made) refuse(made, body, by, values, context);
    const why = "no place in the copy: a slot or a step narrower than the distance is gone.";
    tellGone(made.gone, body, { one: `has ${why}`, several: `have ${why}` }, context);
    const faces = faceNamesOf(
      made.shape,
      made.from.map((name) => `${step}:off:${name}`),
    );
    return {
      made: [
        { id: `${step}:copy`, kind: "solid", shape: made.shape, faces, hint: { from: body.id, text: "Clearance" } },
      ],
      used: [],
      ...(made.within > SAME_PLACE
        ? {
            told: [
              {
                code: "clearance-within",
                message: `Rounded corners keep the distance to within ${formatDeviation(made.within)}, as it was measured.`,
                step,
              },
            ],
          }
        : {}),
    };
  },
});

/** @throws SeamError with the faces to blame, and what would do. */
function refuse({ why, places }: ClearanceFault, body: Body, by: number, values: Values, context: StepContext): never {
  const { step } = context;
  const name = context.nameOf(body.id);
  refuseBriefly(context, `clearance-${why}`, "distance", body.id);
  const fits = (size: number, corners: Values["corners"]) => {
    const made = clearanceCopy(body, Math.sign(by) * size, corners);
    if ("why" in made) return false;
    freeShape(made.shape);
    return true;
  };
  const isFree = freeFacesOf(body.shape).length > 0;
  const sharp = why === "round" && !isFree && fits(Math.abs(by), "sharp");
  const most = sharp || isFree ? null : largestThat((size) => fits(size, values.corners), Math.abs(by), 4);
  const sentence = {
    ends: `At a distance of ${formatLength(by)} a radius of ${name} is used up, or a surface ends with its face.`,
    open: `At a distance of ${formatLength(by)} faces of ${name} do not meet any more.`,
    nothing: `At a distance of ${formatLength(by)} nothing is left of ${name}.`,
    apart: `At a distance of ${formatLength(by)} ${name} falls apart.`,
    undivided: `Where the faces of ${name} meet at a distance of ${formatLength(by)} cannot be found. Take a little more or less.`,
    round: `Corners of ${name} cannot be rounded with ${formatLength(Math.abs(by))}.`,
    uneven: `At a distance of ${formatLength(by)} the copy of ${name} does not keep it everywhere.`,
  }[why];
  const at = allFaceFacts(body.shape)[places[0] ?? -1]?.centre;
  const smaller = most === null ? null : Math.sign(by) * most;
  fail(`clearance-${why}`, withWhatFits(sentence, smaller, !isFree), {
    step,
    field: "distance",
    bodies: [body.id],
    faces: places.map((place) => ({ body: body.id, face: body.faces[place]! })),
    ...(at ? { at: [...at] as [number, number, number] } : {}),
    ...(sharp ? { repair: { label: "Leave the corners sharp", step, set: { corners: "sharp" } } } : {}),
    ...(smaller === null
      ? {}
      : { repair: { label: `Make it ${formatLength(smaller)}`, step, set: { distance: smaller } } }),
  });
}
