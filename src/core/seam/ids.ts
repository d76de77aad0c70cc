import { readMark } from "./mark";

/** The id of a body without the mark that tells it from others of its kind: what stays when its bounds change. */
export function unmarked(id: string): string {
  const at = id.indexOf("~");
  return at >= 0 && readMark(id.slice(at + 1)) ? id.slice(0, at) : id;
}

/** How the things that a step works on are spoken of: as short as tells them apart, and what they were called before. */
export class Ids {
  private readonly shared = new Set<string>();
  private readonly known = new Map<string, readonly string[]>();

  /** @param ids all that the step divides and divides by. @param before the ids that each had before it was changed. */
  constructor(
    ids: readonly string[],
    private readonly before: (id: string) => readonly string[] = () => [],
  ) {
    const seen = new Map<string, string>();
    for (const id of ids) {
      const base = unmarked(id);
      if (seen.has(base) && seen.get(base) !== id) this.shared.add(base);
      seen.set(base, id);
    }
  }

  short(id: string): string {
    const base = unmarked(id);
    return this.shared.has(base) ? id : base;
  }

  /** Every name that may have meant it, the present one first. */
  names(id: string): readonly string[] {
    let names = this.known.get(id);
    if (!names) {
      const earlier = this.before(id);
      names = [...new Set([this.short(id), id, unmarked(id), ...earlier, ...earlier.map(unmarked)])];
      this.known.set(id, names);
    }
    return names;
  }
}
