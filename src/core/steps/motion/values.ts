import * as z from "zod";
import { angleField, lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import { idField } from "../../schema/fields";
import { intoFields } from "../shared/into/declare";
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

export const schema = z.object({
  body: z.array(itemRef).max(1).default([]).describe("The solid that moves; it stays where it is"),
  way: z
    .enum(["moves", "lock", "swing", "slide"])
    .default("moves")
    .describe(
      "moves: the moves as they are listed; lock: in, round and back, as a pin in a locking slot; swing: forth and back about an axis, as a lever; slide: one straight move, as a drawer",
    ),
  moves: z
    .array(moveSchema)
    .max(50)
    .default([{ id: "m1", how: "straight", by: [0, 0, 20], turn: 90, about: "z", through: [0, 0, 0] }]),
  towards: axisField.default("z").describe("lock, slide: along X, Y or Z"),
  depth: lengthField().default(-20).describe("lock, slide: by this much, mm; below 0 the other way"),
  angle: angleField().default(45).describe("lock: then turned by, about the axis of the round face"),
  back: lengthField({ min: 0 }).default(0).describe("lock: then drawn back by, mm"),
  from: angleField().default(-30).describe("swing: turned from here, where it stands being 0"),
  to: angleField().default(30).describe("swing: to here"),
  axis: z.array(faceRefSchema).max(1).default([]).describe("A round face whose axis moves turn about"),
  as: z.enum(["solid"]).default("solid"),
  ...intoFields,
});
export type MotionValues = z.infer<typeof schema>;
