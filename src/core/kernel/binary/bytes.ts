import { Digest } from "../space/digest";

/** Walks through the bytes that the library wrote: little-endian numbers, with a line of text before each table. */
export class Bytes {
  private at = 0;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  byte(): number {
    return this.view.getUint8(this.at++);
  }

  short(): number {
    this.at += 2;
    return this.view.getUint16(this.at - 2, true);
  }

  integer(): number {
    this.at += 4;
    return this.view.getInt32(this.at - 4, true);
  }

  real(): number {
    this.at += 8;
    return this.view.getFloat64(this.at - 8, true);
  }

  reals(count: number): number[] {
    const { view, at } = this;
    this.at += 8 * count;
    if (count === 2) return [view.getFloat64(at, true), view.getFloat64(at + 8, true)];
    if (count === 3) return [view.getFloat64(at, true), view.getFloat64(at + 8, true), view.getFloat64(at + 16, true)];
    const values: number[] = [];
    for (let i = 0; i < count; i++) values.push(view.getFloat64(at + 8 * i, true));
    return values;
  }

  get place(): number {
    return this.at;
  }

  /** A short text that stands for all that has been passed since a place. */
  digestSince(place: number): string {
    const digest = new Digest();
    let at = place;
    for (; at + 4 <= this.at; at += 4) digest.word(this.view.getUint32(at, true));
    for (; at < this.at; at++) digest.word(this.view.getUint8(at));
    return digest.value;
  }

  /** A copy of all that has been passed since a place. */
  copySince(place: number): Uint8Array {
    return this.bytes.slice(place, this.at);
  }

  skip(count: number): void {
    this.at += count;
  }

  /** The rest of a line of text, empty lines left out. */
  line(): string {
    for (;;) {
      const end = this.bytes.indexOf(10, this.at);
      if (end < 0) throw new Error("The shape's record ends early.");
      const text = String.fromCharCode(...this.bytes.subarray(this.at, end));
      this.at = end + 1;
      if (text) return text;
    }
  }

  /** How many entries a table has, from the line that announces it. */
  table(name: string): number {
    const [title, count] = this.line().split(" ");
    if (title !== name) throw new Error(`The shape's record has ${title} where ${name} should be.`);
    return Number(count);
  }
}
