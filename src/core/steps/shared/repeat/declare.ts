import * as z from "zod";
import { itemRef, stepRef } from "../../../references";
import type { Field } from "../../declare";

/** The values of a step that repeats bodies, or what steps did. */
export const repeatFields = {
  what: z.enum(["bodies", "steps"]).default("bodies").describe("What is repeated"),
  bodies: z.array(itemRef).max(200).default([]),
  steps: z.array(stepRef).max(50).default([]).describe("steps: by id, of those that join, cut, keep within or divide"),
};

/** The fields of a form for what is repeated. */
export const REPEAT_FORM: Field[] = [
  {
    key: "what",
    kind: "choice",
    label: "Of",
    options: [
      { value: "bodies", label: "Bodies" },
      { value: "steps", label: "Steps" },
    ],
  },
  {
    key: "bodies",
    kind: "bodies",
    label: "Bodies",
    accepts: ["body"],
    min: 1,
    when: { key: "what", is: ["bodies"] },
  },
  { key: "steps", kind: "steps", label: "Steps that join, cut or divide", when: { key: "what", is: ["steps"] } },
];
