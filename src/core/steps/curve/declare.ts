import * as z from "zod";
import { declareStep } from "../declare";
import { pointField } from "../shared/space";

const schema = z.object({
  points: z
    .array(
      z.object({
        id: z.string().min(1).max(60).describe("Its own, among the points: it keeps its name when others come in"),
        at: pointField(),
        by: z.enum(["line", "spline"]).default("line").describe("How the curve goes on to the next point"),
      }),
    )
    .max(1000)
    .default([
      { id: "p1", at: [0, 0, 0], by: "line" },
      { id: "p2", at: [0, 0, 100], by: "line" },
    ])
    .describe("The points that it goes through, in order; X, Y and Z in mm"),
  closed: z.boolean().default(false).describe("The last point is joined to the first"),
  smooth: z.boolean().default(true).describe("Splines leave straight parts in their direction"),
});

/** A line through space: to sweep along, to pipe, to lay out a run. */
export const curve = declareStep({
  type: "curve",
  schema,
  words: {
    label: "Curve",
    line: "Points in space joined by straight lines and splines: a path for a pipe, a bar, a cable",
    stage: "draw",
  },
  fields: [
    { key: "points", kind: "points", label: "Points" },
    { key: "closed", kind: "toggle", label: "Closed: the last point is joined to the first" },
    { key: "smooth", kind: "toggle", label: "Splines leave straight parts in their direction" },
  ],
});
