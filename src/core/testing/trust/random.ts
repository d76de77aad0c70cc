/** Random numbers by seed (mulberry32, public domain, from memory): the same on every run and machine. */
export class Random {
  constructor(private state: number) {}

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  /** A multiple of `step` between two numbers: nice sizes make coincidences. */
  nice(low: number, high: number, step: number): number {
    return Math.round(this.between(low, high) / step) * step;
  }

  whole(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1 - 1e-9));
  }

  pick<T>(list: readonly T[]): T {
    return list[this.whole(0, list.length - 1)]!;
  }

  chance(p: number): boolean {
    return this.next() < p;
  }
}
