import * as z from "zod";
import { angleField } from "../../params";
import { itemRef } from "../../references";
import { declareStep } from "../declare";
import { AXIS_OPTIONS, axisField, pointField } from "../shared/space";

const schema = z.object({
  bodies: z.array(itemRef).max(200).default([]),
  by: pointField().default([0, 0, 0]),
  turn: angleField().default(0),
  axis: axisField.default("z"),
  about: pointField().default([0, 0, 0]).describe("A point on the axis"),
  copy: z.boolean().default(false).describe("Leave the original where it is"),
});

/** Moves or copies by exact values: first the turn, then the shift. */
export const move = declareStep({
  type: "move",
  schema,
  words: {
    label: "Move or copy",
    line: "Bodies turned and shifted by exact values, or copies of them",
    stage: "shape",
  },
  fields: [
    { key: "bodies", kind: "bodies", label: "Bodies", accepts: ["placed"], min: 1 },
    { key: "by", kind: "point", label: "Shift by" },
    { key: "turn", kind: "angle", label: "Turn by" },
    { key: "axis", kind: "choice", label: "Turn round", options: AXIS_OPTIONS },
    { key: "about", kind: "point", label: "Through the point" },
    { key: "copy", kind: "toggle", label: "Keep the original (copy)" },
  ],
  changes: (values) => (values.copy ? [] : values.bodies),
});
