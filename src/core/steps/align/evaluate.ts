import { fail } from "../../errors";
import type { Body } from "../../items";
import { allFaceFacts, type FaceFacts, freeShape, placed } from "../../kernel";
import { toMm, toRadians } from "../../params";
import { canPut, putTurns } from "../../place";
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

function placementOf(from: FaceFacts, to: FaceFacts, { how, gap, spin, middle }: Values, { step }: StepContext) {
  if (!canPut(from, to))
    fail("faces-unlike", "Both faces have to be flat, or both cylindrical. Pick two of a kind.", { step });
  const [turn, move] = putTurns(from, to, { how, gap: toMm(gap), spin: toRadians(spin), middle });
  return { turn, move };
}
