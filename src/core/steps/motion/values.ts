import * as z from "zod";
import { angleField, lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { idField } from "../../schema/fields";
import { intoFields } from "../shared/into/declare";
import { axisField, pointField } from "../shared/space";

const moveSchema = z.object({
  id: idField,
  how: z.enum(["straight", "turn"]).default("straight"),
  by: pointField().default([0, 0, 20]).describe("straight"),
  turn: angleField().default(90).describe("turn; 360 degrees is all round"),
  about: z
    .enum([...axisField.options, "face"])
    .default("z")
    .describe("turn: along X, Y, Z, or the face's axis"),
  through: pointField().default([0, 0, 0]).describe("A point on the axis"),
});

export const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("What moves; it stays"),
  way: z
    .enum(["moves", "lock", "swing", "slide"])
    .default("moves")
    .describe("moves: as listed; lock: in, round, back, as in a locking slot; swing: forth and back; slide: straight"),
  moves: z
    .array(moveSchema)
    .max(50)
    .default([{ id: "m1", how: "straight", by: [0, 0, 20], turn: 90, about: "z", through: [0, 0, 0] }]),
  towards: axisField.default("z"),
  depth: lengthField().default(-20).describe("mm; below 0 the other way"),
  angle: angleField().default(45),
  back: lengthField({ min: 0 }).default(0).describe("mm"),
  from: angleField().default(-30).describe("Where it stands is 0"),
  to: angleField().default(30),
  axis: z.array(faceRefSchema).max(1).default([]).describe("Its axis is turned about"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});
export type MotionValues = z.infer<typeof schema>;
