import * as z from "zod";
import { angleField } from "../../params";
import { edgeRefSchema } from "../../references";
import { declareStep } from "../declare";
import { INTO_FORM, intoFields, putsInto } from "../shared/into/declare";
import { PROFILE_FORM, PROFILE_OF, profileFields } from "../shared/profile/declare";

const schema = z.object({
  ...profileFields,
  axis: z.enum(["x", "y", "line", "edge"]).default("y").describe("The sketch's X or Y axis, a line of it, or an edge"),
  line: z.string().max(60).default("").describe("line: a straight line of the sketch, by its id"),
  edge: z.array(edgeRefSchema).max(1).default([]).describe("edge: a straight edge in the sketch's plane"),
  extent: z.enum(["full", "angle", "symmetric"]).default("full"),
  angle: angleField({ min: -360, max: 360 }).default(90).describe("angle: from the plane on; symmetric: in all"),
  ...intoFields,
});

/** A drawing turned about an axis in its plane. */
export const revolve = declareStep({
  type: "revolve",
  schema,
  words: { label: "Revolve", line: "A sketch turned about an axis: a solid, a sheet, or a cut", stage: "shape" },
  fields: [
    ...PROFILE_OF,
    {
      key: "axis",
      kind: "choice",
      label: "About",
      options: [
        { value: "x", label: "Its X axis" },
        { value: "y", label: "Its Y axis" },
        { value: "line", label: "A line of it" },
        { value: "edge", label: "An edge" },
      ],
    },
    { key: "line", kind: "sketch-line", of: "sketch", label: "Line", when: { key: "axis", is: ["line"] } },
    {
      key: "edge",
      kind: "edges",
      label: "Straight edge",
      accepts: "line",
      min: 1,
      max: 1,
      when: { key: "axis", is: ["edge"] },
    },
    ...PROFILE_FORM,
    ...INTO_FORM,
    {
      key: "extent",
      kind: "choice",
      label: "How far",
      options: [
        { value: "full", label: "All round" },
        { value: "angle", label: "By an angle" },
        { value: "symmetric", label: "Both ways alike" },
      ],
    },
    { key: "angle", kind: "angle", label: "Angle", when: { key: "extent", is: ["angle", "symmetric"] } },
  ],
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
