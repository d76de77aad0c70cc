import type { Vec3 } from "../space/vectors";
import type { Bytes } from "./bytes";

/** A place that a shape has been moved to: a matrix of three rows and four columns. */
export interface Place {
  /** Its number; equal numbers are equal places. 0 is where things stand that were not moved. */
  id: number;
  matrix: readonly number[];
}

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
export const UNMOVED: Place = { id: 0, matrix: IDENTITY };

/** A movement and how many times it is applied (negative: undone). */
type Link = readonly [movement: number, times: number];

/**
 * The places of a shape. The library composes them from single movements and calls two places equal when they are
 * composed of the same movements, whatever their matrices; so does this.
 */
export class Places {
  /** By their number in the record; 0 is the unmoved. */
  private readonly written: { chain: readonly Link[]; place: Place }[] = [{ chain: [], place: UNMOVED }];
  private readonly chains = new Map<number, readonly Link[]>([[0, []]]);
  private readonly known = new Map<string, Place>([["", UNMOVED]]);
  private readonly products = new Map<string, Place>();
  private readonly movements = new Map<number, readonly number[]>();

  constructor(bytes: Bytes) {
    const count = bytes.table("Locations");
    for (let i = 1; i <= count; i++) {
      let chain: readonly Link[] = [[i, 1]];
      if (bytes.byte() === 1) this.movements.set(i, bytes.reals(12));
      else {
        const links: Link[] = [];
        for (let part = bytes.integer(); part !== 0; part = bytes.integer()) links.push([part, bytes.integer()]);
        chain = links;
      }
      this.written.push({ chain, place: this.of(chain) });
    }
  }

  at(number: number): Place {
    return this.written[number]!.place;
  }

  /** Where something lies that is at `inner` in what is at `outer`. */
  within(outer: Place, inner: Place): Place {
    if (outer.id === 0) return inner;
    if (inner.id === 0) return outer;
    const key = `${outer.id} ${inner.id}`;
    let product = this.products.get(key);
    if (!product) {
      const links = [...this.chains.get(inner.id)!];
      for (const link of this.chains.get(outer.id)!) {
        const last = links.at(-1);
        if (last?.[0] !== link[0]) links.push(link);
        else {
          links.pop();
          if (last[1] + link[1] !== 0) links.push([link[0], last[1] + link[1]]);
        }
      }
      product = this.of(links);
      this.products.set(key, product);
    }
    return product;
  }

  /** The place that a chain of movements leads to, the first applied first. */
  private of(chain: readonly Link[]): Place {
    const key = chain.join(" ");
    let place = this.known.get(key);
    if (!place) {
      let matrix: readonly number[] = IDENTITY;
      for (const [movement, times] of chain) {
        const once = this.movements.get(movement)!;
        const step = times < 0 ? inverse(once) : once;
        for (let i = 0; i < Math.abs(times); i++) matrix = product(step, matrix);
      }
      place = { id: this.known.size, matrix };
      this.known.set(key, place);
      this.chains.set(place.id, chain);
    }
    return place;
  }
}

function product(a: readonly number[], b: readonly number[]): number[] {
  return Array.from({ length: 12 }, (_, i) => {
    const [row, column] = [i - (i % 4), i % 4];
    const sum = a[row]! * b[column]! + a[row + 1]! * b[column + 4]! + a[row + 2]! * b[column + 8]!;
    return column === 3 ? sum + a[row + 3]! : sum;
  });
}

function inverse(m: readonly number[]): number[] {
  const [a, b, c, x, d, e, f, y, g, h, i, z] = m as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const cofactors = [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ];
  const determinant = a * cofactors[0]![0]! + b * cofactors[1]![0]! + c * cofactors[2]![0]!;
  return cofactors.flatMap((row) => {
    const [p, q, r] = row.map((value) => value / determinant) as [number, number, number];
    return [p, q, r, -(p * x + q * y + r * z)];
  });
}

/** A point, brought to a place. */
export function placed({ id, matrix: m }: Place, [x, y, z]: readonly number[]): Vec3 {
  if (id === 0) return [x!, y!, z!];
  return [
    m[0]! * x! + m[1]! * y! + m[2]! * z! + m[3]!,
    m[4]! * x! + m[5]! * y! + m[6]! * z! + m[7]!,
    m[8]! * x! + m[9]! * y! + m[10]! * z! + m[11]!,
  ];
}

/** A direction, turned (and stretched) as a place turns it. */
export function turned({ id, matrix: m }: Place, [x, y, z]: readonly number[]): Vec3 {
  if (id === 0) return [x!, y!, z!];
  return [
    m[0]! * x! + m[1]! * y! + m[2]! * z!,
    m[4]! * x! + m[5]! * y! + m[6]! * z!,
    m[8]! * x! + m[9]! * y! + m[10]! * z!,
  ];
}
