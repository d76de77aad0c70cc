const real = new Float64Array(1);
const halves = new Uint32Array(real.buffer);

/** A short text for many numbers: equal numbers give equal text, and others another one, but for one chance in 2⁶⁴. */
export class Digest {
  private a = 0x9e3779b9;
  private b = 0x85ebca6b;

  numbers(...values: readonly number[]): this {
    return this.list(values);
  }

  list(values: readonly number[]): this {
    for (const value of values) {
      // Adding 0 makes −0 a 0.
      real[0] = value + 0;
      this.word(halves[0]!);
      this.word(halves[1]!);
    }
    return this;
  }

  text(value: string): this {
    for (let i = 0; i < value.length; i++) this.word(value.charCodeAt(i));
    return this;
  }

  get value(): string {
    return `${stirred(this.a)}.${stirred(this.b)}`;
  }

  /** Adds a whole number of up to 32 bits. */
  word(value: number): void {
    this.a = Math.imul(this.a ^ value, 2654435761);
    this.a ^= this.a >>> 15;
    this.b = Math.imul(this.b ^ value, 1597334677);
    this.b ^= this.b >>> 13;
  }
}

function stirred(value: number): number {
  const once = Math.imul(value ^ (value >>> 16), 2246822507);
  return (once ^ (once >>> 13)) >>> 0;
}
