import { FormulaError } from "./errors";
import type { Scope } from "./evaluate";
import { type Parameter, parameterValue } from "./parameter";
import { namesIn } from "./parse";
import type { Measured } from "./quantity";

/** A value, or why there is none. */
export type Outcome = { ok: true; value: Measured } | { ok: false; message: string; at: number; length: number };

/** A formula that needs its own result. */
class CircularFormula extends FormulaError {}

/** A name with a formula: a parameter, or a dimension of a sketch as `sketch.width`. */
export type Definition = Parameter;

/**
 * The names that a formula can use, each worked out once, when it is asked for. Later lists hide earlier ones, so that a
 * part's parameter stands before the job's of the same name; inside its own formula the outer one is meant.
 */
export class ParameterScope implements Scope {
  private readonly known = new Map<string, Outcome>();
  private readonly definitions = new Map<string, { definition: Definition; level: number }[]>();
  private readonly circular = new Set<string>();
  private prepared = false;
  /** The names being worked out, outermost first. */
  private readonly trail: string[] = [];

  constructor(...levels: readonly (readonly Definition[])[]) {
    levels.forEach((list, level) => {
      for (const definition of list) {
        const same = this.definitions.get(definition.name);
        if (same) same.push({ definition, level });
        else this.definitions.set(definition.name, [{ definition, level }]);
      }
    });
  }

  names(): readonly string[] {
    return [...this.definitions.keys()];
  }

  valueOf(name: string): Measured | undefined {
    return this.visible(name, Number.POSITIVE_INFINITY);
  }

  /** The value of the definition of a name at a level, or why it has none. */
  outcome(name: string, level = Number.POSITIVE_INFINITY): Outcome | undefined {
    const found = this.definitions.get(name)?.findLast((entry) => entry.level <= level);
    if (!found) return undefined;
    const key = `${found.level}/${name}`;
    const before = this.known.get(key);
    if (before) return before;
    const open = this.trail.indexOf(key);
    if (open >= 0) {
      const circle = [...this.trail.slice(open), key].map((entry) => entry.slice(entry.indexOf("/") + 1));
      throw new CircularFormula(
        `${circle.join(" needs ")}: a formula cannot need its own result. Give one of them a number.`,
        0,
        0,
      );
    }
    if (!this.prepared) {
      this.prepare();
      const ready = this.known.get(key);
      if (ready) return ready;
    }
    this.trail.push(key);
    let result: Outcome;
    try {
      // A name inside its own formula is the outer one's; other names are what this level sees.
      const scope: Scope = {
        names: () => this.names(),
        valueOf: (inner) => {
          const outer = inner === name && found.level > 0 ? this.visible(inner, found.level - 1) : undefined;
          return outer ?? this.visible(inner, found.level);
        },
      };
      result = { ok: true, value: parameterValue(found.definition, scope) };
    } catch (cause) {
      if (!(cause instanceof FormulaError)) throw cause;
      result = { ok: false, message: cause.message, at: cause.at, length: cause.length };
      if (cause instanceof CircularFormula) this.circular.add(key);
    } finally {
      this.trail.pop();
    }
    this.known.set(key, result);
    return result;
  }

  private visible(name: string, level: number): Measured | undefined {
    const result = this.outcome(name, level);
    if (!result) return undefined;
    if (result.ok) return result.value;
    const found = this.definitions.get(name)!.findLast((entry) => entry.level <= level)!;
    if (this.circular.has(`${found.level}/${name}`)) throw new CircularFormula(result.message, 0, 0);
    throw new FormulaError(`${name} has no value: ${result.message}`, 0, 0);
  }

  /** Works everything out once, what others need first: a chain of a thousand parameters must not exhaust the stack. */
  private prepare(): void {
    this.prepared = true;
    for (const name of this.sorted()) this.outcome(name);
  }

  /** Names so that each comes after what it needs, as far as there is no circle. */
  private sorted(): string[] {
    const names = this.names();
    const waiting = new Map<string, number>();
    const users = new Map<string, string[]>();
    for (const name of names) {
      const needs = new Set(this.definitions.get(name)!.flatMap(({ definition }) => namesUsed(definition.formula)));
      const real = [...needs].filter((needed) => needed !== name && this.definitions.has(needed));
      waiting.set(name, real.length);
      for (const needed of real) users.set(needed, [...(users.get(needed) ?? []), name]);
    }
    const ready = names.filter((name) => waiting.get(name) === 0);
    for (let i = 0; i < ready.length; i++)
      for (const user of users.get(ready[i]!) ?? []) {
        waiting.set(user, waiting.get(user)! - 1);
        if (waiting.get(user) === 0) ready.push(user);
      }
    return ready;
  }
}

/** The names that a formula uses; none when it cannot be read. */
export function namesUsed(formula: number | string): string[] {
  if (typeof formula === "number") return [];
  try {
    return [...new Set(namesIn(formula).map(({ name }) => name))];
  } catch (cause) {
    if (cause instanceof FormulaError) return [];
    throw cause;
  }
}

/** A formula with one name replaced by another, all else as it was typed. */
export function renameIn(formula: string, from: string, to: string): string {
  let places: number[];
  try {
    places = namesIn(formula)
      .filter(({ name }) => name === from)
      .map(({ at }) => at);
  } catch (cause) {
    if (cause instanceof FormulaError) return formula;
    throw cause;
  }
  return places.reduceRight((text, at) => text.slice(0, at) + to + text.slice(at + from.length), formula);
}
