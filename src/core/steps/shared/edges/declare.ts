import * as z from "zod";
import { edgeRefSchema } from "../../../references";

/** The edges that a step works on. */
export const edgesField = z
  .array(edgeRefSchema)
  .max(500)
  .default([])
  .describe("The edges; what runs smoothly on from them is worked, too");
