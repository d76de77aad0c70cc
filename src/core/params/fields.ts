import * as z from "zod";
import { Marks } from "../schema/marks";
import { parseAngle, parseLength } from "../units";
import { FormulaError } from "./errors";
import { evaluateFormula, type Scope } from "./evaluate";
import { parseFormula } from "./parse";
import { ANGLE, isPlain, LENGTH, PLAIN, type Powers, powersInWords, samePowers } from "./quantity";

/** What a number field of a job holds: a number (mm or degrees), text with its unit as typed, or a formula. */
export type Quantity = number | string;

/** A step's values once their numbers are worked out: millimetres, degrees or plain numbers where quantities were. */
export type Resolved<T> = [T] extends [Quantity]
  ? [Quantity] extends [T]
    ? number
    : T
  : T extends readonly unknown[]
    ? { [K in keyof T]: Resolved<T[K]> }
    : T extends object
      ? { [K in keyof T]: Resolved<T[K]> }
      : T;

export interface Limits {
  /** mm, degrees or plain: the value has to be above this. */
  above?: number;
  min?: number;
  max?: number;
  /** Whole numbers only. */
  whole?: boolean;
}

export type QuantityKind = "length" | "angle" | "count";

export interface QuantityField {
  kind: QuantityKind;
  limits: Limits;
}

/** The largest size that the kernel's tolerance still makes sense for: 100 m. */
const LARGEST = 100_000;

const KINDS: Record<QuantityKind, { powers: Powers; unit: string; size: number; parse: typeof parseAngle | null }> = {
  length: { powers: LENGTH, unit: " mm", size: 1, parse: (text) => parseLength(text) },
  angle: { powers: ANGLE, unit: " deg", size: Math.PI / 180, parse: parseAngle },
  count: { powers: PLAIN, unit: "", size: 1, parse: null },
};

/** Which schemas are number fields: what finds the formulas in a step's values. */
const numbers = new Marks<QuantityField>();

/** Schema of a length: millimetres as a number, text such as `1/2 in`, or a formula. Kept as written, checked by value. */
export function lengthField(limits: Limits = {}) {
  return quantity(
    { kind: "length", limits: { max: LARGEST, min: -LARGEST, ...limits } },
    'A length: millimetres as a number, text with a unit such as "1/2 in", or a formula such as "width / 2"',
  );
}

/** Schema of an angle: a number of degrees, text such as `30 deg`, or a formula. */
export function angleField(limits: Limits = {}) {
  return quantity(
    { kind: "angle", limits: { min: -36_000, max: 36_000, ...limits } },
    "An angle: degrees as a number, text with a unit, or a formula",
  );
}

/** Schema of a whole number of things, or a formula for one. */
export function countField(limits: Limits = {}) {
  return quantity(
    { kind: "count", limits: { min: 0, max: 100_000, whole: true, ...limits } },
    "A whole number, or a formula",
  );
}

/** Schema of a plain number, above or below 0, or a formula for one. */
export function numberField() {
  return quantity({ kind: "count", limits: { min: -LARGEST, max: LARGEST } }, "A plain number, or a formula");
}

/** Schema of a plain factor such as 1.02, or a formula for one. */
export function factorField() {
  return quantity({ kind: "count", limits: { above: 0, max: 1000 } }, "A factor such as 1.02, or a formula");
}

function quantity(field: QuantityField, description: string) {
  const schema = z
    .union([z.number(), z.string().max(20_000)])
    .superRefine((value, context) => {
      const problem = written(value, field);
      if (problem) context.addIssue({ code: "custom", message: problem });
    })
    .describe(description);
  return numbers.add(schema, field);
}

/** What kind of number a schema asks for, and within which limits; undefined for other values. */
export const numberAskedBy = (schema: z.ZodType): QuantityField | undefined => numbers.of(schema);

/** What is wrong with a value as it is written: a formula is read, but only its names' values can tell the rest. */
function written(value: Quantity, field: QuantityField): string | null {
  if (isFormula(value, field.kind)) {
    try {
      parseFormula(value);
      return null;
    } catch (cause) {
      if (cause instanceof FormulaError) return cause.message;
      throw cause;
    }
  }
  try {
    return outOfLimits(literal(value, field.kind), field, null);
  } catch (cause) {
    return (cause as Error).message;
  }
}

/** Whether a value is more than a number with a unit. */
export function isFormula(value: unknown, kind: QuantityKind = "length"): value is string {
  if (typeof value !== "string" || value.trim() === "") return false;
  const { parse } = KINDS[kind];
  if (parse?.(value).ok) return false;
  // Words and fractions of nothing are not formulas but numbers gone wrong; the literal's own sentence is clearer.
  return !/^[+-]?\s*[\d.]+\s*[^\d\s+*/^(),<>=-]*$/.test(value.trim());
}

function literal(value: Quantity, kind: QuantityKind): number {
  if (typeof value === "number") {
    if (!Number.isFinite(value)) throw new Error("is not a finite number");
    return value;
  }
  const { parse, size } = KINDS[kind];
  const parsed = parse ? parse(value) : plainNumber(value);
  if (!parsed.ok) throw new Error(parsed.problem);
  return parsed.value / size;
}

function plainNumber(text: string): ReturnType<typeof parseAngle> {
  const value = Number(text.trim());
  return text.trim() !== "" && Number.isFinite(value)
    ? { ok: true, value }
    : { ok: false, problem: `“${text.trim()}” is not a number; write a number such as 4.` };
}

function outOfLimits(size: number, { kind, limits }: QuantityField, formula: string | null): string | null {
  const { unit } = KINDS[kind];
  const from = formula === null ? "" : ` (${formula})`;
  const is = `it is ${round(size)}${unit}${from}`;
  if (limits.above !== undefined && !(size > limits.above)) return `has to be more than ${limits.above}${unit}; ${is}`;
  if (limits.min !== undefined && size < limits.min) return `has to be at least ${limits.min}${unit}; ${is}`;
  if (limits.max !== undefined && size > limits.max) return `has to be at most ${limits.max}${unit}; ${is}`;
  if (limits.whole && Math.abs(size - Math.round(size)) > 1e-9) return `has to be a whole number; ${is}`;
  return null;
}

const round = (value: number) => Math.round(value * 1e4) / 1e4;

/**
 * The number that a field's value comes to: millimetres, degrees, or a plain count. A plain result of a formula counts
 * in the field's unit. @throws FormulaError with a sentence for a person.
 */
export function quantityValue(value: Quantity, kind: QuantityKind, scope: Scope): number {
  if (!isFormula(value, kind)) {
    try {
      return literal(value, kind);
    } catch (cause) {
      throw new FormulaError((cause as Error).message, 0, 0);
    }
  }
  const { powers, size } = KINDS[kind];
  const result = evaluateFormula(value, scope);
  if (samePowers(result, powers)) return result.value / size;
  if (isPlain(result)) return result.value;
  throw new FormulaError(
    `The result is ${powersInWords(result)}, and this asks for ${powersInWords(powers)}.`,
    0,
    value.length,
  );
}

/** What is wrong in a step's values, by the path of the field, such as `size.0`. */
export type FieldProblems = Record<string, string>;

/**
 * A copy of a step's values with every number field worked out, and what is wrong by field. Which strings are number
 * fields is known from the schema, so that a name that looks like a formula stays a name.
 */
export function resolveQuantities<T>(
  schema: z.ZodType,
  values: T,
  scope: Scope,
): { values: T; problems: FieldProblems } {
  const problems: FieldProblems = {};
  const resolved = numbers.map(schema, values, (value, field, path) => {
    if (typeof value !== "number" && typeof value !== "string") return value;
    try {
      const size = quantityValue(value, field.kind, scope);
      const problem = outOfLimits(size, field, isFormula(value, field.kind) ? value : null);
      if (problem) problems[path] = problem;
      return size;
    } catch (cause) {
      if (!(cause instanceof FormulaError)) throw cause;
      problems[path] = cause.message;
      return value;
    }
  });
  return { values: resolved, problems };
}

/** Every formula in a step's values, by the path of its field. */
export function formulasIn(schema: z.ZodType, values: unknown): { path: string; formula: string }[] {
  const found: { path: string; formula: string }[] = [];
  numbers.each(schema, values, (value, { kind }, path) => {
    if (isFormula(value, kind)) found.push({ path, formula: value });
  });
  return found;
}

/** A copy of a step's values with every formula replaced by what `change` makes of it. */
export function mapFormulas<T>(schema: z.ZodType, values: T, change: (formula: string, path: string) => string): T {
  return numbers.map(schema, values, (value, { kind }, path) => (isFormula(value, kind) ? change(value, path) : value));
}

/** Millimetres of a resolved length, or of one with a unit. Throws an Error with a sentence when it is neither. */
export function toMm(value: Quantity): number {
  return literal(value, "length");
}

/** Degrees of a resolved angle, or of one with a unit. */
export function toDegrees(value: Quantity): number {
  return literal(value, "angle");
}

/** Radians of a resolved angle, whose number is degrees, or of one with a unit. */
export function toRadians(value: Quantity): number {
  return (literal(value, "angle") * Math.PI) / 180;
}

/** A factor that was worked out already, or written as a plain number. */
export function toFactor(value: Quantity): number {
  return literal(value, "count");
}

/** A whole number that was worked out already, or written as one. */
export function toCount(value: Quantity): number {
  return Math.round(literal(value, "count"));
}
