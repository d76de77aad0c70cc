import * as z from "zod";
import { asFraction, formatLength } from "../units";
import { FormulaError } from "./errors";
import { EMPTY_SCOPE, evaluateFormula, type Scope } from "./evaluate";
import { FUNCTIONS } from "./functions";
import { RESERVED } from "./parse";
import { ANGLE, isPlain, LENGTH, type Measured, PLAIN, type Powers, powersInWords, samePowers } from "./quantity";
import { isUnit } from "./tokens";

/** What a parameter is counted in; a bare number in its formula is so many of these. */
export const PARAMETER_UNITS = ["mm", "in", "deg", ""] as const;
export type ParameterUnit = (typeof PARAMETER_UNITS)[number];

export const PARAMETER_NAME = /^[\p{L}_][\p{L}\p{N}_]{0,59}$/u;

export const parameterSchema = z
  .strictObject({
    name: z
      .string()
      .regex(PARAMETER_NAME, "has to be letters, digits and _, beginning with a letter")
      .refine((name) => !isTaken(name), { error: "is the name of a unit or a function; choose another" }),
    unit: z.enum(PARAMETER_UNITS).default("mm").describe("mm, in, deg, or empty for a plain number"),
    formula: z
      .union([z.number(), z.string().max(20_000)])
      .describe("A number in its unit, or a formula over other parameters"),
    note: z.string().max(500).default(""),
  })
  .describe("A named value that formulas use");
export type Parameter = z.infer<typeof parameterSchema>;

/** Whether a word means something in formulas already. */
export function isTaken(name: string): boolean {
  return isUnit(name.toLowerCase()) || Object.hasOwn(FUNCTIONS, name) || RESERVED.has(name);
}

const DIMENSION_OF: Record<ParameterUnit, Powers> = { mm: LENGTH, in: LENGTH, deg: ANGLE, "": PLAIN };
export const UNIT_SIZE: Record<ParameterUnit, number> = { mm: 1, in: 25.4, deg: Math.PI / 180, "": 1 };

/** A parameter's value. A plain result counts in the parameter's unit. @throws FormulaError */
export function parameterValue(
  { unit, formula }: Pick<Parameter, "unit" | "formula">,
  scope: Scope = EMPTY_SCOPE,
): Measured {
  const powers = DIMENSION_OF[unit];
  const raw: Measured = typeof formula === "number" ? { ...PLAIN, value: formula } : evaluateFormula(formula, scope);
  if (samePowers(raw, powers)) return raw;
  if (isPlain(raw)) return { ...powers, value: raw.value * UNIT_SIZE[unit] };
  throw new FormulaError(
    `The result is ${powersInWords(raw)}, and this is ${powersInWords(powers)}.`,
    0,
    String(formula).length,
  );
}

/** A value as its parameter counts it: `12 mm`, `1 1/2 in`, `30°`, `4`. */
export function formatMeasured({ value }: Measured, unit: ParameterUnit): string {
  if (unit === "mm") return formatLength(value, "mm");
  if (unit === "in") {
    const fraction = asFraction(value);
    return fraction ? `${fraction} in` : formatLength(value, "inch");
  }
  const shown = Math.round((value / UNIT_SIZE[unit]) * 1e6) / 1e6;
  return unit === "deg" ? `${shown}°` : String(shown);
}

export const MAX_PARAMETERS = 2000;
