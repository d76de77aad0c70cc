import { z } from "zod";
import { fail } from "../../errors";
import {
  add,
  allFaceFacts,
  cross,
  dot,
  type FaceFacts,
  freeShape,
  length,
  type Placement,
  placed,
  scale,
  sub,
  turned,
  unit,
  type Vec3,
} from "../../kernel";
import { type Body, faceRefSchema } from "../../naming";
import { angleField, lengthField, toMm, toRadians } from "../../params";
import { itemRef } from "../common";
import { defineStep, type StepContext } from "../step";

const schema = z.object({
  face: z.array(faceRefSchema).max(1).default([]).describe("A flat or cylindrical face of the body that is moved"),
  onto: z
    .array(faceRefSchema)
    .max(1)
    .default([])
    .describe("The face of another body that it goes to, of the same kind"),
  how: z
    .enum(["facing", "flush"])
    .default("facing")
    .describe("facing: one against the other; flush: looking the same way"),
  gap: lengthField().default(0).describe("Between flat faces, mm"),
  spin: angleField().default(0).describe("About the normal or the axis, afterwards"),
  middle: z.boolean().default(false).describe("Middle over middle; otherwise it moves no further than it has to"),
  others: z.array(itemRef).max(200).default([]).describe("Bodies that are moved along with it"),
});
type Values = z.infer<typeof schema>;

/** A body moved so that one of its faces lies on a face of another. */
export const align = defineStep({
  type: "align",
  schema,
  words: {
    label: "Align",
    line: "A body put where one of its faces lies on another: flat against flat, or axis on axis",
    stage: "shape",
  },
  fields: [
    { key: "face", kind: "faces", label: "Face of what moves", accepts: "any", min: 1, max: 1 },
    { key: "onto", kind: "faces", label: "Face that it goes to", accepts: "any", min: 1, max: 1 },
    {
      key: "how",
      kind: "choice",
      label: "The faces",
      options: [
        { value: "facing", label: "Face each other" },
        { value: "flush", label: "Look the same way" },
      ],
    },
    { key: "gap", kind: "length", label: "Gap between them", help: "Flat faces only" },
    { key: "spin", kind: "angle", label: "Turned by" },
    { key: "middle", kind: "toggle", label: "Middle over middle" },
    { key: "others", kind: "bodies", label: "Moved along with it", accepts: ["solid", "sheet"], min: 0 },
  ],
  refs: (values) => [...[...values.face, ...values.onto].map((ref) => ref.body), ...values.others],
  changes: (values) => [...values.face.map((ref) => ref.body), ...values.others],
  resolved: (values) => ({ ...values, gap: toMm(values.gap), spin: toRadians(values.spin) }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const [face] = values.face;
    if (!face) fail("nothing-picked", "Pick a face of the body to move.", { step, field: "face" });
    const [onto] = values.onto;
    if (!onto) fail("nothing-picked", "Pick the face that it goes to.", { step, field: "onto" });
    const moving = context.face(face);
    const still = context.face(onto);
    const others = context.bodies(values.others).filter(({ id }) => id !== moving.body.id);
    if ([moving.body, ...others].some(({ id }) => id === still.body.id))
      fail("same-body", "A body cannot be put onto itself. Pick a face of another.", { step, bodies: [still.body.id] });
    const facts = ({ body, face: place }: { body: Body; face: number }) => allFaceFacts(body.shape)[place]!;
    const { turn, move } = placementOf(facts(moving), facts(still), values, context);
    const made = [moving.body, ...others].map((body): Body => {
      const first = placed(body.shape, turn);
      const shape = placed(first, move);
      freeShape(first);
      return { ...body, shape };
    });
    return { made, used: made.map(({ id }) => id) };
  },
});

/** First the turn that makes the faces parallel, then the spin and the shift. */
function placementOf(from: FaceFacts, to: FaceFacts, values: Values, { step }: StepContext) {
  const kinds = ["plane", "cylinder"];
  if (from.kind !== to.kind || !kinds.includes(from.kind) || !from.direction || !to.direction)
    fail("faces-unlike", "Both faces have to be flat, or both cylindrical. Pick two of a kind.", { step });
  const flat = from.kind === "plane";
  // Axes have no front: the nearer of their two ways is taken, or with “flush” the other.
  const nearer = flat ? -1 : Math.sign(dot(from.direction, to.direction)) || 1;
  const wanted = scale(to.direction, (values.how === "facing" ? 1 : -1) * nearer);
  const at = flat ? from.centre : (from.axisAt ?? from.centre);
  const goal = flat ? to.centre : (to.axisAt ?? to.centre);
  const turn = turnTo(from.direction, wanted, at);
  const away = sub(goal, at);
  const along = scale(to.direction, dot(away, to.direction));
  const gap = scale(to.direction, flat ? toMm(values.gap) : 0);
  const middle = (facts: FaceFacts) => facts.centre;
  // The turn may have moved the middle of a cylinder along: it lies on the axis, where the turn is about.
  const shift = values.middle ? sub(middle(to), afterTurn(middle(from), turn)) : flat ? along : sub(away, along);
  const spin: Placement = { about: at, axis: to.direction, angle: toRadians(values.spin), by: add(shift, gap) };
  return { turn, move: spin };
}

const afterTurn = (point: Vec3, { about, axis, angle }: Placement): Vec3 =>
  add(turned(sub(point, about), axis, angle), about);

/** The least turn about a point that takes one unit vector to another. */
function turnTo(from: Vec3, to: Vec3, about: Vec3): Placement {
  const axis = cross(from, to);
  const angle = Math.atan2(length(axis), dot(from, to));
  if (length(axis) > 1e-9) return { about, axis: unit(axis), angle, by: [0, 0, 0] };
  const any: Vec3 = Math.abs(from[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return { about, axis: unit(cross(from, any)), angle: dot(from, to) > 0 ? 0 : Math.PI, by: [0, 0, 0] };
}
