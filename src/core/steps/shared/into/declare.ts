import * as z from "zod";
import { lengthField } from "../../../params";
import { itemRef } from "../../../references";
import type { Field } from "../../declare";

/** What becomes of the solids that a step makes. */
export type Into = "new" | "join" | "cut" | "common";

/** What becomes of the solids that a step makes: bodies of their own, or one with bodies that are named. */
export const intoFields = {
  into: z
    .enum(["new", "join", "cut", "common"])
    .default("new")
    .describe("new: bodies of their own; join, cut, common: with the targets"),
  targets: z
    .array(itemRef)
    .max(500)
    .default([])
    .describe("The bodies that it is joined to, cut out of, or kept within"),
  intoGap: lengthField()
    .default(0)
    .describe("cut: kept between what cuts, as it is drawn, and what is left, mm; below 0 it presses into it"),
};

export interface Values {
  into: Into;
  targets: string[];
  intoGap: number;
  as: "solid" | "sheet";
}

/** The fields of a form for what becomes of the solids. */
export const INTO_FORM: Field[] = [
  {
    key: "into",
    kind: "choice",
    label: "As",
    options: [
      { value: "new", label: "A body of its own" },
      { value: "join", label: "Joined on" },
      { value: "cut", label: "A cut" },
      { value: "common", label: "What is common" },
    ],
    when: { key: "as", is: ["solid"] },
  },
  {
    key: "targets",
    kind: "bodies",
    label: "With",
    accepts: ["closed"],
    min: 1,
    when: [
      { key: "into", is: ["join", "cut", "common"] },
      { key: "as", is: ["solid"] },
    ],
  },
  {
    key: "intoGap",
    kind: "length",
    label: "Gap",
    help: "What is left keeps this far off what is drawn, all round",
    processes: true,
    when: [
      { key: "into", is: ["cut"] },
      { key: "as", is: ["solid"] },
    ],
  },
];

/** Whether the solids go into other bodies. Sheets are always bodies of their own. */
export const goesInto = ({ into, as }: Pick<Values, "into" | "as">): boolean => into !== "new" && as === "solid";

/** What it does to bodies, in a word, for steps that do it again elsewhere; null where it makes bodies of its own. */
export const putsInto = (values: Pick<Values, "into" | "as">): string | null =>
  goesInto(values) ? { new: null, join: "joined", cut: "cut", common: "kept within" }[values.into] : null;
