import * as z from "zod";
import { jobSchema } from "./document";

/** The JSON Schema (draft 2020-12) of the job file, from the same schemas that check it. */
export function jobJsonSchema(): unknown {
  return z.toJSONSchema(jobSchema, { io: "input" });
}
