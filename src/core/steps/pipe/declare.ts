import * as z from "zod";
import { lengthField } from "../../params";
import { declareStep } from "../declare";
import { alongFields, CORNERS_FIELD, PATH_FORM } from "../shared/along/declare";
import { INTO_FORM, intoFields, putsInto } from "../shared/into/declare";

const schema = z.object({
  ...alongFields,
  section: z.enum(["round", "square"]).default("round"),
  size: lengthField({ above: 0 }).default(20).describe("Diameter or side, outside, mm"),
  wall: lengthField({ min: 0 }).default(0).describe("Thickness of the wall, mm; 0 for a solid bar"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});

/** A bar or tube along a path. */
export const pipe = declareStep({
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
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
