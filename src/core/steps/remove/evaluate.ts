import { fail } from "../../errors";
import { evaluates } from "../evaluation";
import { remove } from "./declare";

export const evaluateRemove = evaluates(remove, {
  evaluate({ bodies }, context) {
    const items = context.items(bodies);
    if (items.length === 0) fail("nothing-picked", "Pick what is taken off the bench.", { step: context.step });
    return { made: [], used: [...new Set(items.map(({ id }) => id))] };
  },
});
