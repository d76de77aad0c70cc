import { fail } from "../../errors";
import type { Body } from "../../items";
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
import { toMm, toRadians } from "../../params";
import { SAME_WAY } from "../../tolerance";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { align } from "./declare";

type Values = ValuesOf<typeof align>;

export const evaluateAlign = evaluates(align, {
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
  if (length(axis) > SAME_WAY) return { about, axis: unit(axis), angle, by: [0, 0, 0] };
  const any: Vec3 = Math.abs(from[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return { about, axis: unit(cross(from, any)), angle: dot(from, to) > 0 ? 0 : Math.PI, by: [0, 0, 0] };
}
