import { FormulaError } from "./errors";
import { alike, FUNCTIONS, isNought, WrongArgument } from "./functions";
import { type Node, type Operator, parseFormula } from "./parse";
import { isPlain, type Measured, powersInWords, samePowers } from "./quantity";

/** Where a formula's names get their values. */
export interface Scope {
  /** The value of a name, or undefined when there is none. May throw a FormulaError of its own. */
  valueOf(name: string): Measured | undefined;
  /** All names that there are, for a hint at a misspelt one. */
  names(): readonly string[];
}

export const EMPTY_SCOPE: Scope = { valueOf: () => undefined, names: () => [] };

/**
 * The value of a formula, in millimetres and radians, with what it measures.
 * @throws FormulaError that says what is wrong and where in the text.
 */
export function evaluateFormula(text: string, scope: Scope = EMPTY_SCOPE): Measured {
  const result = value(parseFormula(text), scope, text);
  if (!Number.isFinite(result.value)) throw new FormulaError("This has no finite value.", 0, text.length);
  return result;
}

function value(node: Node, scope: Scope, text: string): Measured {
  switch (node.kind) {
    case "constant":
      return node.value;
    case "name":
      return named(node, scope);
    case "negate": {
      const of = value(node.of, scope, text);
      return { ...of, value: -of.value };
    }
    case "unit": {
      const of = value(node.of, scope, text);
      if (!isPlain(of))
        throw new FormulaError(`This is ${powersInWords(of)} already: leave the unit out.`, node.at, node.length);
      return { ...node.unit, value: of.value * node.unit.value };
    }
    case "call": {
      if (node.name === "if") {
        const [condition, yes, no] = node.args as [Node, Node, Node];
        return value(holds(condition, scope, text) ? yes : no, scope, text);
      }
      const args = node.args.map((arg) => value(arg, scope, text));
      return placed(node, () => FUNCTIONS[node.name]!.run(args));
    }
    case "not":
      throw misplaced(node);
    case "binary":
      return binary(node, scope, text);
  }
}

function named(node: Node & { kind: "name" }, scope: Scope): Measured {
  const found = scope.valueOf(node.name);
  if (found) return found;
  if (Object.hasOwn(FUNCTIONS, node.name))
    throw new FormulaError(
      `${node.name} is a function: write ${FUNCTIONS[node.name]!.example}.`,
      node.at,
      node.name.length,
    );
  const near = nearestName(node.name, scope.names());
  throw new FormulaError(
    `There is no parameter “${node.name}”.${near ? ` Did you mean ${near}?` : " Add it to the parameters, or write a number."}`,
    node.at,
    node.length,
  );
}

function binary(node: Node & { kind: "binary" }, scope: Scope, text: string): Measured {
  const { operator } = node;
  if (!isArithmetic(operator)) throw misplaced(node);
  const left = value(node.left, scope, text);
  const right = value(node.right, scope, text);
  switch (operator) {
    case "+":
    case "-": {
      if (!isNought(left) && !isNought(right) && !samePowers(left, right)) throw mismatch(node, left, right, text);
      const lead = isNought(left) ? right : left;
      return { ...lead, value: operator === "+" ? left.value + right.value : left.value - right.value };
    }
    case "*":
      return finite(node, {
        value: left.value * right.value,
        length: left.length + right.length,
        angle: left.angle + right.angle,
      });
    case "/":
      if (right.value === 0)
        throw new FormulaError(
          `This divides by zero: “${excerpt(node.right, text)}” is 0.`,
          node.right.at,
          node.right.length,
        );
      return finite(node, {
        value: left.value / right.value,
        length: left.length - right.length,
        angle: left.angle - right.angle,
      });
    case "^": {
      if (!isPlain(right))
        throw new FormulaError(
          `A power has to be a plain number, not ${powersInWords(right)}.`,
          node.right.at,
          node.right.length,
        );
      if (left.value === 0 && right.value < 0)
        throw new FormulaError("This divides by zero: 0 to a negative power.", node.at, node.length);
      if (left.value < 0 && !Number.isInteger(right.value))
        throw new FormulaError("A negative value to a broken power is no number.", node.at, node.length);
      return finite(node, {
        value: left.value ** right.value,
        length: left.length * right.value,
        angle: left.angle * right.value,
      });
    }
  }
}

type Arithmetic = "+" | "-" | "*" | "/" | "^";
const isArithmetic = (operator: Operator): operator is Arithmetic => "+-*/^".includes(operator);

function finite(node: Node, result: Measured): Measured {
  if (!Number.isFinite(result.value)) throw new FormulaError("This grows past every number.", node.at, node.length);
  return result;
}

function mismatch(node: Node & { kind: "binary" }, left: Measured, right: Measured, text: string): FormulaError {
  const words = `“${excerpt(node.left, text)}” is ${powersInWords(left)} and “${excerpt(node.right, text)}” is ${powersInWords(right)}`;
  const bare = isPlain(right) ? node.right : isPlain(left) ? node.left : null;
  const other = isPlain(right) ? left : right;
  const unit = samePowers(other, { length: 1, angle: 0 })
    ? ["mm", "in"]
    : samePowers(other, { length: 0, angle: 1 })
      ? ["deg", "rad"]
      : null;
  const hint =
    bare?.kind === "constant" && unit
      ? `: write ${excerpt(bare, text)} ${unit[0]} or ${excerpt(bare, text)} ${unit[1]}.`
      : ": they cannot be added.";
  return new FormulaError(words + hint, node.at, node.length);
}

function misplaced(node: Node): FormulaError {
  return new FormulaError("A comparison has no value of its own. Use it as if(a > b, …, …).", node.at, node.length);
}

function holds(node: Node, scope: Scope, text: string): boolean {
  if (node.kind === "not") return !holds(node.of, scope, text);
  if (node.kind === "binary" && node.operator === "and")
    return holds(node.left, scope, text) && holds(node.right, scope, text);
  if (node.kind === "binary" && node.operator === "or")
    return holds(node.left, scope, text) || holds(node.right, scope, text);
  if (node.kind !== "binary" || isArithmetic(node.operator))
    throw new FormulaError("if starts with a comparison, as in if(a > b, …, …).", node.at, node.length);
  const left = value(node.left, scope, text);
  const right = value(node.right, scope, text);
  placed(node, () => alike([left, right], "A comparison"));
  const gap = left.value - right.value;
  // Two ways to the same length differ by rounding: they count as equal.
  const equal = Math.abs(gap) <= 1e-12 * Math.max(Math.abs(left.value), Math.abs(right.value));
  switch (node.operator) {
    case "<":
      return gap < 0 && !equal;
    case "<=":
      return gap < 0 || equal;
    case ">":
      return gap > 0 && !equal;
    case ">=":
      return gap > 0 || equal;
    case "=":
      return equal;
    default:
      return !equal;
  }
}

function placed<T>(node: Node, work: () => T): T {
  try {
    return work();
  } catch (cause) {
    if (cause instanceof WrongArgument) throw new FormulaError(cause.message, node.at, node.length);
    throw cause;
  }
}

function excerpt(node: Node, text: string): string {
  const whole = text.slice(node.at, node.at + node.length).trim();
  return whole.length > 40 ? `${whole.slice(0, 38)}…` : whole;
}

/** The name that a misspelt one most likely means: at most two letters apart, or the same but for capitals. */
function nearestName(name: string, names: readonly string[]): string | null {
  let best: string | null = null;
  let least = Math.min(3, Math.max(2, name.length / 2));
  for (const other of names) {
    const apart = name.toLowerCase() === other.toLowerCase() ? 0 : editDistance(name, other);
    if (apart < least) {
      best = other;
      least = apart;
    }
  }
  return best;
}

/** Levenshtein distance, by rows. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(Math.min(next[j - 1]! + 1, row[j]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)));
    row = next;
  }
  return row[b.length]!;
}
