import * as z from "zod";
import { angleField } from "../../params";
import { declareCheck } from "../declare";

/** How far faces lean to a direction of drawing out: whether what is moulded comes free. */
export const draftCheck = declareCheck({
  id: "draft",
  schema: z.object({
    along: z.enum(["x", "y", "z"]).default("z").describe("The direction in which it is drawn out"),
    flip: z.boolean().default(false).describe("The other way"),
    least: angleField({ min: 0, max: 45 }).default(2).describe("As much draft as faces should have"),
  }),
  words: { label: "Draft", line: "How far faces lean to a direction: what comes free of a mould, what sticks" },
  fields: [
    {
      key: "along",
      kind: "choice",
      label: "Drawn out along",
      options: (["x", "y", "z"] as const).map((value) => ({ value, label: value.toUpperCase() })),
    },
    { key: "flip", kind: "toggle", label: "The other way" },
    { key: "least", kind: "angle", label: "Draft that is enough" },
  ],
});
