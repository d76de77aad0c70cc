import * as z from "zod";
import { angleField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { idField } from "../../schema/fields";
import { declareStep } from "../declare";
import { INTO_FORM, intoFields, putsInto } from "../shared/into/declare";
import { axisField, pointField } from "../shared/space";

const moveSchema = z.object({
  id: idField,
  how: z.enum(["straight", "turn"]).default("straight"),
  by: pointField().default([0, 0, 20]).describe("straight: moved by, X, Y and Z"),
  turn: angleField().default(90).describe("turn: by this angle; 360 degrees is all round"),
  about: z
    .enum([...axisField.options, "face"])
    .default("z")
    .describe("turn: along X, Y or Z, or the axis of the round face"),
  through: pointField().default([0, 0, 0]).describe("turn along X, Y or Z: a point on the axis"),
});

const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("The solid that moves; it stays where it is"),
  moves: z
    .array(moveSchema)
    .max(50)
    .default([{ id: "m1", how: "straight", by: [0, 0, 20], turn: 90, about: "z", through: [0, 0, 0] }]),
  axis: z.array(faceRefSchema).max(1).default([]).describe("A round face whose axis moves turn about"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});

/** The room that a body passes through along a chain of moves. */
export const motion = declareStep({
  type: "motion",
  schema,
  words: {
    label: "Motion clearance",
    line: "The room that a body passes through: along straight moves and turns, as a body or cut out with a gap",
    stage: "fit",
  },
  fields: [
    { key: "body", kind: "bodies", label: "What moves", accepts: ["closed"], min: 1, max: 1 },
    { key: "moves", kind: "moves", label: "Moves" },
    { key: "axis", kind: "faces", label: "Round face to turn about", accepts: "any", min: 0, max: 1 },
    ...INTO_FORM,
  ],
  changes: ({ targets }) => targets,
  repeats: putsInto,
});
