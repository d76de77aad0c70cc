/**
 * What became of items while a part is built: which one a body lives on in, and under which ids an item was known before.
 */
export class Lineage {
  /** What lives on in what, and the other way round. */
  private readonly heirs = new Map<string, string>();
  private readonly lives = new Map<string, string[]>();
  /** What an item is a part of, or was made from. */
  private readonly froms = new Map<string, string>();
  /** Earlier ids, as far as they were asked for since something was last made. */
  private readonly known = new Map<string, readonly string[]>();

  /** @param isThere whether an item is there still. */
  constructor(private readonly isThere: (id: string) => boolean) {}

  /** Notes what a step made of what. @param becomes ids that mean another item from here on. */
  add(becomes: Readonly<Record<string, string>>): void {
    this.known.clear();
    for (const [from, to] of Object.entries(becomes)) {
      this.heirs.set(from, to);
      const before = this.lives.get(to);
      if (before) before.push(from);
      else this.lives.set(to, [from]);
    }
  }

  /** Notes what an item was made from. */
  from(id: string, source: string): void {
    if (id !== source) this.froms.set(id, source);
  }

  /** The item that an id means now: itself, or the one that it lives on in. Null when there is none. */
  now(id: string): string | null {
    if (this.isThere(id)) return id;
    const heir = this.heirs.get(id);
    return heir === undefined ? null : this.now(heir);
  }

  /** Ids under which an item was known: of what lives on in it, and of what it is a part of. A copy never was its original. */
  earlier(id: string): readonly string[] {
    let found = this.known.get(id);
    if (!found) {
      const own = [...this.meant(id)];
      const from = this.froms.get(id);
      if (from !== undefined && !this.isThere(from) && !own.includes(from)) own.push(from);
      found = [...new Set(own.flatMap((before) => [before, ...this.earlier(before)]))];
      this.known.set(id, found);
    }
    return found;
  }

  /** The ids that mean an item, beside its own. */
  meant(id: string): readonly string[] {
    return this.lives.get(id) ?? [];
  }
}
