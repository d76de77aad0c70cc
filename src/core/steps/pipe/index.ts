import { z } from "zod";
import { fail } from "../../errors";
import { bendsOf } from "../../kernel";
import { lengthField, toMm } from "../../params";
import { formatLength } from "../../units";
import {
  alongFields,
  CORNERS_FIELD,
  PATH_FORM,
  pathRefs,
  pathValues,
  refuseTight,
  spineOf,
  sweptBody,
  without,
} from "../along";
import { goesInto, INTO_FORM, intoFields, putInto, targetsOf } from "../into";
import { defineStep } from "../step";

const schema = z.object({
  ...alongFields,
  section: z.enum(["round", "square"]).default("round"),
  size: lengthField({ above: 0 }).default(20).describe("Diameter or side, outside, mm"),
  wall: lengthField({ min: 0 }).default(0).describe("Thickness of the wall, mm; 0 for a solid bar"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});

/** A bar or tube along a path. */
export const pipe = defineStep({
  type: "pipe",
  schema,
  words: {
    label: "Pipe",
    line: "A bar or tube, round or square, along a path drawn in a sketch or along edges",
    stage: "shape",
  },
  fields: [
    ...PATH_FORM,
    {
      key: "section",
      kind: "choice",
      label: "Section",
      options: [
        { value: "round", label: "Round" },
        { value: "square", label: "Square" },
      ],
    },
    { key: "size", kind: "length", label: "Size outside" },
    { key: "wall", kind: "length", label: "Wall", help: "0 for a solid bar" },
    CORNERS_FIELD,
    ...INTO_FORM,
  ],
  refs: (values) => [...pathRefs(values), ...(goesInto(values) ? values.targets : [])],
  changes: (values) => (goesInto(values) ? values.targets : []),
  resolved: (values) => ({
    ...pathValues(values),
    size: toMm(values.size),
    wall: toMm(values.wall),
    targets: goesInto(values) ? values.targets : [],
  }),
  weighed: () => true,
  evaluate(values, context) {
    const { step } = context;
    const spine = spineOf(values, context);
    const targets = targetsOf(values, context);
    const [size, wall] = [toMm(values.size), toMm(values.wall)];
    if (2 * wall >= size - 1e-6)
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
    if (wall < 1e-9) return putInto(values, targets, [outer], context);
    const tube = without(outer, [bar(size - 2 * wall, "inside:")], context);
    return putInto(values, targets, [{ ...tube, hint: { text: "Tube" } }], context);
  },
});
