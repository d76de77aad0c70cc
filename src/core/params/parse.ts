import { ANGLE_UNITS, LENGTH_UNITS } from "../units";
import { FormulaError } from "./errors";
import { FUNCTIONS } from "./functions";
import { ANGLE, isPlain, LENGTH, type Measured, plain } from "./quantity";
import { isUnit, type Token, tokens } from "./tokens";

/** The tree of a formula. `at` and `length` say which text a node came from. */
export type Node = { at: number; length: number } & (
  | { kind: "constant"; value: Measured }
  | { kind: "name"; name: string }
  | { kind: "negate"; of: Node }
  | { kind: "not"; of: Node }
  | { kind: "unit"; of: Node; unit: Measured }
  | { kind: "binary"; operator: Operator; left: Node; right: Node }
  | { kind: "call"; name: string; args: Node[] }
);
export type Operator = "+" | "-" | "*" | "/" | "^" | "<" | "<=" | ">" | ">=" | "=" | "!=" | "and" | "or";

/** How tightly operators bind, loosest first; a power binds tightest, and to the right. */
const STRENGTH: Record<Operator, number> = {
  or: 1,
  and: 2,
  "<": 3,
  "<=": 3,
  ">": 3,
  ">=": 3,
  "=": 3,
  "!=": 3,
  "+": 4,
  "-": 4,
  "*": 5,
  "/": 5,
  "^": 7,
};
const MAX_DEPTH = 100;

/** Words that a parameter cannot be called by. */
export const RESERVED = new Set(["and", "or", "not", "pi"]);

export function unitOf(text: string): Measured {
  const mm = LENGTH_UNITS[text];
  return mm !== undefined ? { ...LENGTH, value: mm } : { ...ANGLE, value: ANGLE_UNITS[text]! };
}

/**
 * Reads a formula: `frontWidth / 2`, `gap + 1/8 in`, `max(wall, 0.8 mm)`, `if(n > 3, 10 mm, 6 mm)`.
 * @throws FormulaError that says what is wrong and where.
 */
export function parseFormula(text: string): Node {
  if (text.trim() === "") throw new FormulaError("Write a number or a formula.", 0, 0);
  return new Parser(tokens(text)).whole();
}

class Parser {
  private place = 0;
  private depth = 0;

  constructor(private readonly list: Token[]) {}

  whole(): Node {
    const node = this.expression(0);
    const rest = this.peek();
    if (rest.kind !== "end") this.unexpected(rest);
    return node;
  }

  private peek(): Token {
    return this.list[this.place]!;
  }

  private next(): Token {
    return this.list[this.place++]!;
  }

  private isSymbol(text: string): boolean {
    const token = this.peek();
    return token.kind === "symbol" && token.text === text;
  }

  private expression(least: number): Node {
    this.depth++;
    if (this.depth > MAX_DEPTH)
      throw new FormulaError("This formula is nested too deeply. Name parts of it as parameters.", this.peek().at);
    let left = this.prefix();
    for (;;) {
      const token = this.peek();
      const operator = operatorOf(token);
      if (!operator || STRENGTH[operator] < least) break;
      this.next();
      const right = this.expression(operator === "^" ? STRENGTH[operator] : STRENGTH[operator] + 1);
      left = { kind: "binary", operator, left, right, ...span(left, right) };
    }
    this.depth--;
    return left;
  }

  private prefix(): Node {
    const token = this.peek();
    if (token.kind === "symbol" && (token.text === "-" || token.text === "+")) {
      this.next();
      // −2^2 is −(2^2), and −a·b is (−a)·b, which is the same.
      const of = this.expression(6);
      return token.text === "+" ? of : { kind: "negate", of, at: token.at, length: of.at + of.length - token.at };
    }
    if (token.kind === "name" && token.text === "not") {
      this.next();
      const of = this.expression(3);
      return { kind: "not", of, at: token.at, length: of.at + of.length - token.at };
    }
    return this.withUnit(this.primary());
  }

  private withUnit(of: Node): Node {
    const token = this.peek();
    if (token.kind !== "unit") return of;
    this.next();
    const unit = unitOf(token.text);
    const length = token.at + token.text.length - of.at;
    if (of.kind === "constant" && isPlain(of.value))
      return { kind: "constant", value: { ...unit, value: of.value.value * unit.value }, at: of.at, length };
    return { kind: "unit", of, unit, at: of.at, length };
  }

  private primary(): Node {
    const token = this.next();
    if (token.kind === "number")
      return { kind: "constant", value: plain(token.value), at: token.at, length: token.text.length };
    if (token.kind === "name") {
      if (this.isSymbol("(")) return this.call(token);
      if (token.text === "pi") return { kind: "constant", value: plain(Math.PI), at: token.at, length: 2 };
      if (isUnit(token.text)) throw new FormulaError(`Put a number before ${token.text}.`, token.at, token.text.length);
      return { kind: "name", name: token.text, at: token.at, length: token.text.length };
    }
    if (token.kind === "symbol" && token.text === "(") {
      const inner = this.expression(0);
      const close = this.close(token);
      return { ...inner, at: token.at, length: close.at + 1 - token.at };
    }
    this.place--;
    this.unexpected(token);
  }

  private call(name: Token): Node {
    const open = this.next();
    const args: Node[] = [];
    if (!this.isSymbol(")")) {
      args.push(this.expression(0));
      while (this.isSymbol(",")) {
        this.next();
        args.push(this.expression(0));
      }
    }
    const close = this.close(open);
    const length = close.at + 1 - name.at;
    const known = FUNCTIONS[name.text];
    if (!known || !Object.hasOwn(FUNCTIONS, name.text))
      throw new FormulaError(
        `There is no function “${name.text}”. There are ${Object.keys(FUNCTIONS).join(", ")}.`,
        name.at,
        name.text.length,
      );
    const [least, most] = known.count;
    if (args.length < least || args.length > most)
      throw new FormulaError(
        `${name.text} takes ${least === most ? least : most === Number.POSITIVE_INFINITY ? `${least} or more` : `${least} to ${most}`} ${most === 1 ? "value" : "values"}, as in ${known.example}; here it has ${args.length}.`,
        name.at,
        length,
      );
    return { kind: "call", name: name.text, args, at: name.at, length };
  }

  private close(open: Token): Token {
    const token = this.peek();
    if (token.kind === "end") throw new FormulaError("A bracket is not closed: add “)”.", open.at);
    if (!this.isSymbol(")")) this.unexpected(token);
    return this.next();
  }

  private unexpected(token: Token): never {
    const before = this.list[this.place - 1];
    if (token.kind === "end") throw new FormulaError("The formula breaks off: something has to follow.", token.at, 0);
    if (token.kind === "unit")
      throw new FormulaError(`Put a number before ${token.text}.`, token.at, token.text.length);
    if (token.kind === "symbol" && token.text === ")")
      throw new FormulaError(
        before?.kind === "symbol" ? `Something has to stand before “)”.` : "A “)” has no “(” before it.",
        token.at,
      );
    if ((token.kind === "number" || token.kind === "name") && before && before.kind !== "symbol")
      throw new FormulaError(
        `Put an operator such as * or + between “${before.text}” and “${token.text}”.`,
        token.at,
        token.text.length,
      );
    if (token.kind === "symbol" && token.text === "(" && before && before.kind !== "symbol")
      throw new FormulaError(`Put an operator such as * before “(”.`, token.at);
    throw new FormulaError(`“${token.text}” does not fit here.`, token.at, token.text.length);
  }
}

function operatorOf(token: Token): Operator | null {
  if (token.kind === "symbol" && Object.hasOwn(STRENGTH, token.text)) return token.text as Operator;
  if (token.kind === "name" && (token.text === "and" || token.text === "or")) return token.text;
  return null;
}

function span(left: Node, right: Node): { at: number; length: number } {
  return { at: left.at, length: right.at + right.length - left.at };
}

/** Every name that a formula uses, with the places where it stands. */
export function namesIn(text: string): { name: string; at: number }[] {
  const list = tokens(text);
  return list.flatMap((token, i) => {
    const next = list[i + 1];
    const call = next?.kind === "symbol" && next.text === "(";
    if (token.kind !== "name" || call || RESERVED.has(token.text) || isUnit(token.text)) return [];
    return [{ name: token.text, at: token.at }];
  });
}
