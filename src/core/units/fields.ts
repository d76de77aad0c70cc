import { z } from "zod";
import { parseAngle, parseLength } from "./lengths";

/** What a length field holds in a job: millimetres as a number, or text with its unit as it was typed. */
export type Quantity = number | string;

interface Limits {
  /** mm (or degrees): the value has to be above this. */
  above?: number;
  min?: number;
  max?: number;
}

/** The largest size that the kernel's tolerance still makes sense for: 100 m. */
const LARGEST = 100_000;

/** Schema of a length: a number of millimetres or text such as `1/2 in`. Kept as written, checked by value. */
export function lengthField(limits: Limits = {}) {
  return quantity(
    toMm,
    { max: LARGEST, min: -LARGEST, ...limits },
    "mm",
    'A length: millimetres as a number, or text with a unit such as "1/2 in"',
  );
}

/** Schema of an angle: a number of degrees or text such as `30 deg`. */
export function angleField(limits: Limits = {}) {
  return quantity(
    (value) => (toRadians(value) * 180) / Math.PI,
    { min: -36_000, max: 36_000, ...limits },
    "deg",
    "An angle: degrees as a number, or text with a unit",
  );
}

function quantity(evaluate: (value: Quantity) => number, limits: Limits, unit: string, description: string) {
  return z
    .union([z.number(), z.string().max(200)])
    .superRefine((value, context) => {
      let size: number;
      try {
        size = evaluate(value);
      } catch (cause) {
        context.addIssue({ code: "custom", message: (cause as Error).message });
        return;
      }
      if (limits.above !== undefined && !(size > limits.above))
        context.addIssue({
          code: "custom",
          message: `has to be more than ${limits.above} ${unit}; it is ${round(size)} ${unit}`,
        });
      if (limits.min !== undefined && size < limits.min)
        context.addIssue({
          code: "custom",
          message: `has to be at least ${limits.min} ${unit}; it is ${round(size)} ${unit}`,
        });
      if (limits.max !== undefined && size > limits.max)
        context.addIssue({
          code: "custom",
          message: `has to be at most ${limits.max} ${unit}; it is ${round(size)} ${unit}`,
        });
    })
    .describe(description);
}

const round = (value: number) => Math.round(value * 1e4) / 1e4;

/** Millimetres of a length field. Throws an Error with a sentence for a person when it has none. */
export function toMm(value: Quantity): number {
  if (typeof value === "number") {
    if (!Number.isFinite(value)) throw new Error("is not a finite number");
    return value;
  }
  const parsed = parseLength(value);
  if (!parsed.ok) throw new Error(parsed.problem);
  return parsed.value;
}

/** Radians of an angle field; a number is degrees. */
export function toRadians(value: Quantity): number {
  if (typeof value === "number") {
    if (!Number.isFinite(value)) throw new Error("is not a finite number");
    return (value * Math.PI) / 180;
  }
  const parsed = parseAngle(value);
  if (!parsed.ok) throw new Error(parsed.problem);
  return parsed.value;
}
