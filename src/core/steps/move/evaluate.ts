import { fail } from "../../errors";
import { hashText } from "../../hash";
import { handlingOf, type Item } from "../../items";
import { toRadians } from "../../params";
import { evaluates } from "../evaluation";
import { AXES, toVec3 } from "../shared/space";
import { move } from "./declare";

export const evaluateMove = evaluates(move, {
  weighed: () => true,
  evaluate(values, context) {
    const items = context.items(values.bodies);
    if (items.length === 0) fail("nothing-picked", "Pick the bodies to move.", { step: context.step });
    const placement = {
      about: toVec3(values.about),
      axis: AXES[values.axis],
      angle: toRadians(values.turn),
      by: toVec3(values.by),
    };
    const made = items.map((item): Item => {
      const handling = handlingOf(item);
      const moved = handling.placed(item, placement);
      if (!values.copy) return moved;
      const id = `${context.step}:copy:${hashText(item.id).slice(0, 6)}`;
      return { ...handling.copied(moved, context.step, "copy"), id, hint: { from: item.id, suffix: "copy" } };
    });
    return { made, used: values.copy ? [] : items.map((item) => item.id) };
  },
});
