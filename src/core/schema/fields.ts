import * as z from "zod";

export const idField = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,60}$/, "has to be 1 to 60 letters, digits, - or _")
  .describe("Unique in its list");

export const nameField = z.string().trim().min(1, "must not be empty").max(120);
