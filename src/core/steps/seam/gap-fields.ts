import * as z from "zod";
import { lengthField } from "../../params";
import { faceRefSchema, itemRef } from "../../references";
import type { Field, FieldCondition } from "../declare";
import { setsChoice, setsField, whenSet } from "../shared/sets";

const touchField = z.array(itemRef).max(100).default([]);
const facesField = z.array(faceRefSchema).max(500).default([]);

const fitField = (of: string) =>
  z
    .string()
    .max(20)
    .default("")
    .describe(`subtract: a fit by ISO 286, as H7/g6, that cylindrical faces of ${of} keep in place of the number`);

/** The gap that a subtraction keeps between what it takes away and what is left: all round, or other for some faces. */
export const gapValues = {
  gap: lengthField()
    .default(0)
    .describe("subtract: kept between solids that cut and what they leave, mm; below 0 they press into it"),
  gaps: setsField().describe("subtract: how many gaps there are"),
  gapFaces2: facesField.describe("two, three: faces of the cutters that keep the second gap"),
  gap2: lengthField().default(0).describe("mm"),
  gapFaces3: facesField.describe("three: faces of the cutters that keep the third gap"),
  gap3: lengthField().default(0).describe("mm"),
  gapTouch2: touchField.describe("two, three: bodies; faces of the cutters that touch them keep the second gap, too"),
  gapTouch3: touchField.describe("three: bodies; faces of the cutters that touch them keep the third gap, too"),
  gapFit: fitField("the cutters"),
  gapFit2: fitField("the second gap"),
  gapFit3: fitField("the third gap"),
};

const CUTS: FieldCondition[] = [{ key: "preset", is: ["subtract"] }, { any: ["cutters"] }];

export const gapFields: Field[] = [
  {
    key: "gap",
    kind: "length",
    label: "Gap to the cutters",
    help: "What is left keeps this far off their faces; below 0 they press into it. The cutters stay as they are",
    when: CUTS,
    processes: true,
  },
  { key: "gapFit", kind: "fit", label: "Fit of round faces", when: CUTS },
  setsChoice("gaps", "Gaps", CUTS),
  ...(["2", "3"] as const).flatMap((n): Field[] => {
    const when = [...CUTS, whenSet("gaps", n)];
    const word = n === "2" ? "Second" : "Third";
    return [
      {
        key: `gapFaces${n}`,
        kind: "faces",
        label: `Faces with the ${word.toLowerCase()} gap`,
        accepts: "any",
        min: 0,
        rules: true,
        when,
      },
      {
        key: `gapTouch${n}`,
        kind: "bodies",
        label: `And faces that touch`,
        accepts: ["closed", "skin"],
        min: 0,
        when,
      },
      { key: `gap${n}`, kind: "length", label: `${word} gap`, when, processes: true },
      { key: `gapFit${n}`, kind: "fit", label: `${word} fit of round faces`, when },
    ];
  }),
];
