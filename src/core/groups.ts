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
