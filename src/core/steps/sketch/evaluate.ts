import { fail } from "../../errors";
import type { PlaneFrame } from "../../kernel";
import { flatLine, SketchFault, solveSketch } from "../../sketch";
import { evaluates, type StepContext, type ValuesOf } from "../evaluation";
import { chosenPlane } from "../shared/plane/choose";
import { framed } from "../shared/plane/planes";
import { sketch } from "./declare";
import { givenBy } from "./given";

type Values = ValuesOf<typeof sketch>;

export const evaluateSketch = evaluates(sketch, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const frame = frameOf(values, context);
    const given = givenBy(values, frame, context);
    let state: ReturnType<typeof solveSketch>;
    try {
      state = solveSketch({ ...values, given }, (dimension) => Number(dimension.value));
    } catch (cause) {
      if (cause instanceof SketchFault) fail("sketch-fault", cause.message, { step });
      throw cause;
    }
    const [first] = state.conflicts;
    if (!state.met)
      fail(
        "sketch-conflict",
        first
          ? upper(first.message)
          : "The sizes of this sketch cannot all be reached from where it stands. Change one, or drag it nearer.",
        { step },
      );
    const flat = flatLine(state);
    if (flat)
      context.warn({
        code: "line-flat",
        message: `“${flat}” has no length, so it draws nothing. Pull its ends apart, or take it out.`,
        step,
      });
    for (const conflict of state.conflicts)
      context.warn({ code: "sketch-repeats", message: upper(conflict.message), step });
    return {
      made: [
        {
          id: `${step}:sketch`,
          kind: "sketch",
          frame,
          entities: [...state.entities, ...given],
          given,
          hint: { text: "Sketch" },
        },
      ],
      used: [],
    };
  },
});

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function frameOf({ on, face, plane }: Values, context: StepContext): PlaneFrame {
  const { origin, normal } = chosenPlane({ about: on, face, plane }, "draw on", context);
  return framed(origin, normal);
}
