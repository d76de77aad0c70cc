import * as z from "zod";
import { angleField, countField, lengthField } from "../../params";
import { declareStep, type Field } from "../declare";
import { alongFields, PATH_FORM } from "../shared/along/declare";
import { REPEAT_FORM, repeatFields } from "../shared/repeat/declare";
import { AXIS_OPTIONS, axisField, pointField } from "../shared/space";

const { corners: _corners, ...pathFields } = alongFields;

const schema = z.object({
  ...repeatFields,
  kind: z.enum(["rows", "ring", "path"]).default("rows"),
  axis: axisField.default("x").describe("rows: along; ring: about"),
  count: countField({ min: 1 }).default(3).describe("In all, the original too"),
  spacing: lengthField().default(20).describe("rows: from one to the next, mm"),
  rows: countField({ min: 1 }).default(1).describe("rows: how many, side by side"),
  across: axisField.default("y").describe("rows: which way the second row lies"),
  rowSpacing: lengthField().default(20).describe("rows: from one row to the next, mm"),
  about: pointField().default([0, 0, 0]).describe("ring: a point on the axis"),
  angle: angleField({ min: -360, max: 360 }).default(360).describe("ring: in all; a whole turn spaces them evenly"),
  ...pathFields,
  turn: z.boolean().default(true).describe("path: each turns as the path does; otherwise all stand alike"),
  join: z.boolean().default(false).describe("Each body and its copies become one"),
});

/** Copies of bodies in rows or round an axis. */
export const pattern = declareStep({
  type: "pattern",
  schema,
  words: {
    label: "Pattern",
    line: "Copies of bodies, or of what steps joined and cut, in rows, in a ring or along a path",
    stage: "shape",
  },
  fields: [
    ...REPEAT_FORM,
    {
      key: "kind",
      kind: "choice",
      label: "In",
      options: [
        { value: "rows", label: "Rows" },
        { value: "ring", label: "A ring" },
        { value: "path", label: "Along a path" },
      ],
    },
    {
      key: "axis",
      kind: "choice",
      label: "Along or about",
      options: AXIS_OPTIONS,
      when: { key: "kind", is: ["rows", "ring"] },
    },
    ...PATH_FORM.map(
      (field): Field => ({ ...field, when: [...[field.when ?? []].flat(), { key: "kind", is: ["path"] }] }),
    ),
    { key: "count", kind: "count", label: "How many, in all" },
    { key: "spacing", kind: "length", label: "From one to the next", when: { key: "kind", is: ["rows"] } },
    { key: "rows", kind: "count", label: "Rows", when: { key: "kind", is: ["rows"] } },
    {
      key: "across",
      kind: "choice",
      label: "Rows lie along",
      options: AXIS_OPTIONS,
      when: { key: "kind", is: ["rows"] },
    },
    { key: "rowSpacing", kind: "length", label: "From row to row", when: { key: "kind", is: ["rows"] } },
    { key: "about", kind: "point", label: "Through the point", when: { key: "kind", is: ["ring"] } },
    { key: "angle", kind: "angle", label: "Angle in all", when: { key: "kind", is: ["ring"] } },
    { key: "turn", kind: "toggle", label: "Turn with the path", when: { key: "kind", is: ["path"] } },
    { key: "join", kind: "toggle", label: "Join with the originals", when: { key: "what", is: ["bodies"] } },
  ],
});
