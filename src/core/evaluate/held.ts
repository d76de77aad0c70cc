import { type Deviation, tellDeviation, withDeviation } from "../deviation";

/** What has to be let go of. */
interface Freed {
  free(): void;
}

/**
 * What an open step made on its way and what other values of it leave as it is: of a division, all but which pieces stay. One
 * thing at a time; the next one, or `clear`, frees it.
 */
export class Held {
  private kept: { key: string; value: Freed; off: Deviation | null } | null = null;
  /** How often it was made, and how often it was there: for tests and the bench. */
  readonly count = { made: 0, known: 0 };

  /** @param key all that the value depends on. What is made belongs to this. */
  take<T extends Freed>(key: string, make: () => T): T {
    if (this.kept?.key === key) {
      this.count.known++;
      if (this.kept.off) tellDeviation(this.kept.off);
      return this.kept.value as T;
    }
    // Both at once would need twice the memory.
    this.clear();
    const { result: value, off } = withDeviation(make);
    if (off) tellDeviation(off);
    this.count.made++;
    this.kept = { key, value, off };
    return value;
  }

  clear(): void {
    this.kept?.value.free();
    this.kept = null;
  }
}

const tokens = new WeakMap<object, number>();
let last = 0;

/** A number that means this very thing and no other, as long as the program runs. */
export function tokenOf(thing: object): number {
  let token = tokens.get(thing);
  if (token === undefined) {
    token = ++last;
    tokens.set(thing, token);
  }
  return token;
}
