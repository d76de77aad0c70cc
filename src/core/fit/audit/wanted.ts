import * as z from "zod";
import { lengthField } from "../../params";

const bodyField = z.strictObject({
  part: z.string().min(1).max(100).describe("The part, by id"),
  body: z.string().min(1).max(700).describe("The body, by id"),
  at: z.string().max(60).default("").describe("At which of the part's places, by id; empty for its own"),
});

/** How two bodies of a job are to lie to each other, of whichever parts: kept with the job, and held against it after each edit. */
export const wantedFitSchema = z
  .strictObject({
    one: bodyField,
    other: bodyField,
    want: z.enum(["gap", "touch", "press"]).describe("Kept apart; touching in a face; one pressed into the other"),
    least: lengthField({ min: 0 }).default(0).describe("gap: at least so far apart; press: at least so deep, mm"),
    most: lengthField({ min: 0 }).default(0).describe("press: at most so deep, mm"),
  })
  .describe("A fit that is wanted between two bodies");
export type WantedFit = z.infer<typeof wantedFitSchema>;
