import { ANGLE_UNITS, LENGTH_UNITS } from "../units";
import { FormulaError } from "./errors";

export type Token = { at: number; text: string } & (
  | { kind: "number"; value: number }
  | { kind: "unit" }
  | { kind: "name" }
  | { kind: "symbol" }
  | { kind: "end" }
);

/** The longest formula that a person could still read. */
export const MAX_FORMULA = 2000;

const SPACE = /\s+/y;
const DECIMAL = /(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+(?![\p{L}\d_]))?/iuy;
/** `3 1/8`: a whole number and a fraction, with space between them, mean their sum. */
const MIXED = /(\d+)\s+(\d+)\s*\/\s*(\d+)(?![\d.\p{L}_])/uy;
/** `1/8 in`: a fraction of whole numbers that a unit follows belongs to the unit as a whole. */
const FRACTION = /(\d+)\s*\/\s*(\d+)(?=\s*(?:["″°]|[\p{L}]))/uy;
const NAME = /[\p{L}_][\p{L}\p{N}_]*(?:\.[\p{L}_][\p{L}\p{N}_]*)*/uy;
const SYMBOL = /<=|>=|!=|==|[-+*/^(),<>=×·÷−]/y;
const UNIT_SIGN = /["″°]/y;

const SAME: Record<string, string> = { "×": "*", "·": "*", "÷": "/", "−": "-", "==": "=" };

export const isUnit = (text: string): boolean => Object.hasOwn(LENGTH_UNITS, text) || Object.hasOwn(ANGLE_UNITS, text);

/** Cuts a formula into numbers, units, names and signs. @throws FormulaError */
export function tokens(text: string): Token[] {
  if (text.length > MAX_FORMULA)
    throw new FormulaError(
      `This formula has ${text.length} characters; more than ${MAX_FORMULA} is too long to check. Name parts of it as parameters.`,
      MAX_FORMULA,
      text.length - MAX_FORMULA,
    );
  const found: Token[] = [];
  let at = 0;
  const take = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    return pattern.exec(text);
  };
  while (at < text.length) {
    const space = take(SPACE);
    if (space) {
      at += space[0].length;
      continue;
    }
    const mixed = take(MIXED);
    const fraction = mixed ? null : take(FRACTION);
    const decimal = mixed || fraction ? null : take(DECIMAL);
    if (mixed || fraction || decimal) {
      const match = (mixed ?? fraction ?? decimal)!;
      const below = mixed ? Number(mixed[3]) : fraction ? Number(fraction[2]) : 1;
      if (below === 0) throw new FormulaError(`${match[0]} divides by zero.`, at, match[0].length);
      const value = mixed
        ? Number(mixed[1]) + Number(mixed[2]) / below
        : fraction
          ? Number(fraction[1]) / below
          : Number(match[0]);
      found.push({ kind: "number", at, text: match[0], value });
      at += match[0].length;
      continue;
    }
    const sign = take(UNIT_SIGN);
    if (sign) {
      found.push({ kind: "unit", at, text: sign[0] });
      at += 1;
      continue;
    }
    const name = take(NAME);
    if (name) {
      const word = name[0];
      const before = found.at(-1);
      const follows = before?.kind === "number" || (before?.kind === "symbol" && before.text === ")");
      const unit = follows && isUnit(word.toLowerCase()) ? word.toLowerCase() : null;
      found.push(unit ? { kind: "unit", at, text: unit } : { kind: "name", at, text: word });
      at += word.length;
      continue;
    }
    const symbol = take(SYMBOL);
    if (symbol) {
      found.push({ kind: "symbol", at, text: SAME[symbol[0]] ?? symbol[0] });
      at += symbol[0].length;
      continue;
    }
    const odd = String.fromCodePoint(text.codePointAt(at)!);
    throw new FormulaError(`“${odd}” means nothing in a formula.`, at, odd.length);
  }
  found.push({ kind: "end", at: text.length, text: "" });
  return found;
}
