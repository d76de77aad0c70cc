import { fail } from "../../errors";
import { handlingOf, type Item } from "../../items";
import { inPlace } from "../../items/in-place";
import { evaluates } from "../evaluation";
import { bringIn } from "./declare";

export const evaluateBringIn = evaluates(bringIn, {
  // What it brings was weighed where it was made.
  weighed: () => true,
  evaluate({ part, items }, { step, elsewhere }) {
    if (part === "") fail("nothing-picked", "Pick the part to bring something in from.", { step, field: "part" });
    if (items.length === 0) fail("nothing-picked", "Pick what is brought in.", { step, field: "items" });
    const brought = elsewhere();
    const made = brought.items.map((item): Item => {
      return {
        ...handlingOf(item).copied(inPlace(item, brought.lies), step, "of"),
        id: `${step}:of:${item.id}`,
        hint: { part, item: item.id },
      };
    });
    return { made, used: [] };
  },
});
