import { fail } from "../../errors";
import { bendsOf } from "../../kernel";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { formatLength } from "../../units";
import { evaluates } from "../evaluation";
import { refuseTight, spineOf, sweptBody, without } from "../shared/along/spine";
import { putInto, targetsOf } from "../shared/into/put";
import { pipe } from "./declare";

export const evaluatePipe = evaluates(pipe, {
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const spine = spineOf(values, context);
    const targets = targetsOf(values, context);
    const [size, wall] = [toMm(values.size), toMm(values.wall)];
    if (2 * wall >= size - SAME_PLACE)
      fail(
        "wall-thick",
        `Two walls of ${formatLength(wall)} fill a section of ${formatLength(size)}. Make the wall thinner, or 0 for a solid bar.`,
        { step, field: "wall" },
      );
    refuseTight(spine, bendsOf(spine.spine), () => size / 2, context);
    const bar = (across: number, mark: string) =>
      sweptBody(
        spine,
        { kind: values.section, size: across },
        { stands: "square", corners: values.corners, twist: 0, solid: true },
        { id: `${step}:solid${mark}`, mark },
        context,
      );
    const outer = bar(size, "");
    if (wall < SAME_PLACE) return putInto(values, targets, [outer], context);
    const tube = without(outer, [bar(size - 2 * wall, "inside:")], context);
    return putInto(values, targets, [{ ...tube, hint: { text: "Tube" } }], context);
  },
});
