/** Which of a number of things belong together, joined pair by pair (union-find, paths halved as they are walked). */
export class Groups {
  private readonly home: number[];

  constructor(count: number) {
    this.home = Array.from({ length: count }, (_, i) => i);
  }

  /** The first of the things that one belongs to: equal for two that belong together. */
  of(thing: number): number {
    const { home } = this;
    let at = thing;
    while (home[at] !== at) at = home[at] = home[home[at]!]!;
    return at;
  }

  join(a: number, b: number): void {
    const [first, second] = [this.of(a), this.of(b)];
    this.home[Math.max(first, second)] = Math.min(first, second);
  }

  /** Each group's things in order, the groups in the order of their first. */
  all(): number[][] {
    const groups = new Map<number, number[]>();
    this.home.forEach((_, thing) => {
      const first = this.of(thing);
      const group = groups.get(first);
      if (group) group.push(thing);
      else groups.set(first, [thing]);
    });
    return [...groups.values()];
  }
}

/** Things that have a key in common, or are joined by others that have: each group's by place, in order. @param keys of each thing. */
export function groupedBy(keys: readonly Iterable<unknown>[]): number[][] {
  const groups = new Groups(keys.length);
  const first = new Map<unknown, number>();
  keys.forEach((own, i) => {
    for (const key of own) {
      const other = first.get(key);
      if (other === undefined) first.set(key, i);
      else groups.join(i, other);
    }
  });
  return groups.all();
}
