import { fail } from "../../errors";
import { formatLength } from "../../units";
import { GRADES } from "./grades";
import { holeDeviations } from "./holes";
import { LARGEST } from "./ranges";
import { type Deviations, SHAFT_LETTERS, shaftDeviations } from "./shafts";

/** A tolerance class as it is written: a letter, capital for holes, and a grade. */
export interface ToleranceClass {
  of: "hole" | "shaft";
  letter: string;
  grade: number;
}

/** The limits of a size, mm. */
export interface Limits {
  least: number;
  most: number;
  /** µm from the nominal size, as tables give them. */
  deviations: Deviations;
}

/** Reads a tolerance class: H7, g6, JS9. @throws SeamError `fit-class` */
export function readClass(text: string): ToleranceClass {
  const [, letter, grade] = /^\s*([A-Za-z]{1,2})\s*(\d{1,2})\s*$/.exec(text) ?? [];
  if (letter === undefined || !isOneCase(letter) || !SHAFT_LETTERS.includes(letter.toLowerCase()))
    fail(
      "fit-class",
      `“${text}” is no tolerance class that is known here: write one as H7, JS6 or g6, with letters d to h, js, k, m, n, p, r, s.`,
    );
  if (!GRADES.includes(Number(grade)))
    fail("fit-class", `“${text}” has no grade that is known here: grades go from ${GRADES[0]} to ${GRADES.at(-1)}.`);
  return { of: letter === letter.toUpperCase() ? "hole" : "shaft", letter, grade: Number(grade) };
}

const isOneCase = (letter: string) => letter === letter.toUpperCase() || letter === letter.toLowerCase();

/** The limits of a size under a tolerance class. @param size nominal, mm @throws SeamError `fit-class`, `fit-size` */
export function limitsOf(size: number, text: string): Limits {
  const { of, letter, grade } = readClass(text);
  if (!(size > 0) || size > LARGEST)
    fail(
      "fit-size",
      `Limits are known for sizes up to ${formatLength(LARGEST, "mm")}, and not for ${formatLength(size, "mm")}: state the gap as a number.`,
    );
  const deviations = (of === "hole" ? holeDeviations : shaftDeviations)(letter, grade, size);
  if (!deviations)
    fail(
      "fit-class",
      `There is no ${letter}${grade} at ${formatLength(size, "mm")}: take another grade, or another letter.`,
    );
  return { least: size + deviations.lower / 1e3, most: size + deviations.upper / 1e3, deviations };
}

/** What a hole and a shaft of one nominal size come to. */
export interface Fit {
  hole: Limits;
  shaft: Limits;
  /** mm between them: less than nothing where the shaft is larger. */
  leastGap: number;
  mostGap: number;
  kind: "clearance" | "transition" | "interference";
}

/**
 * How a shaft fits a hole, written as one: H7/g6. @param size nominal, mm
 * @throws SeamError `fit-class`, `fit-size`
 */
export function fitOf(size: number, text: string): Fit {
  const [one, other, ...more] = text.split("/");
  const classes = [one, other].map((part) => (part === undefined ? null : readClass(part)));
  if (more.length > 0 || classes[0]?.of !== "hole" || classes[1]?.of !== "shaft")
    fail("fit-class", `“${text}” is no fit: write the hole's class, a stroke and the shaft's, as H7/g6.`);
  const [hole, shaft] = [limitsOf(size, one!), limitsOf(size, other!)];
  const leastGap = (hole.deviations.lower - shaft.deviations.upper) / 1e3;
  const mostGap = (hole.deviations.upper - shaft.deviations.lower) / 1e3;
  return {
    hole,
    shaft,
    leastGap,
    mostGap,
    kind: leastGap >= 0 ? "clearance" : mostGap <= 0 ? "interference" : "transition",
  };
}
