import { Bytes } from "./bytes";

/** A piecewise polynomial curve, rational where it has weights: as the library writes it. */
export interface SplineData {
  degree: number;
  /** Coordinates of each pole. */
  poles: number[][];
  weights: number[] | null;
  /** Every knot as often as it counts. */
  knots: number[];
  periodic: boolean;
}

/** Reads the numbers of a spline from its own bytes, after its kind. @param size numbers to a point. */
export function readSpline(own: Uint8Array, size: 2 | 3): SplineData {
  const bytes = new Bytes(own);
  bytes.skip(1);
  const [rational, periodic] = [bytes.byte() !== 0, bytes.byte() !== 0];
  const degree = bytes.short();
  const [poleCount, knotCount] = [bytes.integer(), bytes.integer()];
  const poles: number[][] = [];
  const weights: number[] = [];
  for (let i = 0; i < poleCount; i++) {
    poles.push(bytes.reals(size));
    if (rational) weights.push(bytes.real());
  }
  const knots: number[] = [];
  for (let i = 0; i < knotCount; i++) {
    const [knot, times] = [bytes.real(), bytes.integer()];
    for (let k = 0; k < times; k++) knots.push(knot);
  }
  return { degree, poles, weights: rational ? weights : null, knots, periodic };
}

/** What the library writes before a spline. */
export const SPLINE = 7;

/** Reads the numbers of a Bézier curve from its own bytes, after its kind: a spline of one span. @param size numbers to a point. */
export function readBezier(own: Uint8Array, size: 2 | 3): SplineData {
  const bytes = new Bytes(own);
  bytes.skip(1);
  const rational = bytes.byte() !== 0;
  const degree = bytes.short();
  const poles: number[][] = [];
  const weights: number[] = [];
  for (let i = 0; i <= degree; i++) {
    poles.push(bytes.reals(size));
    if (rational) weights.push(bytes.real());
  }
  const knots = [0, 1].flatMap((end) => Array<number>(degree + 1).fill(end));
  return { degree, poles, weights: rational ? weights : null, knots, periodic: false };
}

/**
 * A spline that goes round on, written as one that does not: knots run on before its first and after its last, and poles
 * come again. It is the same curve between its first knot and its last, and only there.
 */
export function unwrapped(spline: SplineData): SplineData {
  if (!spline.periodic) return spline;
  const { degree, poles, weights } = spline;
  const knots = unwrappedKnots(spline.knots, degree);
  const count = knots.length - degree - 1;
  const again = <T>(list: readonly T[]) => Array.from({ length: count }, (_, i) => list[i % list.length]!);
  return { degree, knots, poles: again(poles), weights: weights && again(weights), periodic: false };
}

/** The knots of a spline that goes round on, with as many before the first and after the last as a place there asks for. */
export function unwrappedKnots(knots: readonly number[], degree: number): number[] {
  const [from, to] = [knots[0]!, knots.at(-1)!];
  const times = knots.filter((knot) => knot === from).length;
  const more = degree + 1 - times;
  const [below, above] = [knots.filter((knot) => knot < to), knots.filter((knot) => knot > from)];
  const period = to - from;
  const at = (list: readonly number[], i: number) => list[((i % list.length) + list.length) % list.length]!;
  const round = (list: readonly number[], i: number) => Math.floor(i / list.length) * period;
  return [
    ...Array.from({ length: more }, (_, i) => at(below, i - more) + round(below, i - more)),
    ...knots,
    ...Array.from({ length: more }, (_, i) => at(above, i) + round(above, i) + period),
  ];
}

/** Poles times their weights, with the weights behind: one after the other. */
const lifted = new WeakMap<SplineData, Float64Array>();

function liftedOf(spline: SplineData): Float64Array {
  let known = lifted.get(spline);
  if (!known) {
    const { poles, weights } = spline;
    known = new Float64Array(poles.length * (poles[0]!.length + 1));
    let at = 0;
    for (const [i, pole] of poles.entries()) {
      const w = weights?.[i] ?? 1;
      for (const value of pole) known[at++] = value * w;
      known[at++] = w;
    }
    lifted.set(spline, known);
  }
  return known;
}

/** Room for the highest degree that the library writes, points in space and their weights. */
const row = new Float64Array(26 * 4);
const ends = new Float64Array(2 * 4);

/** A point of a spline that is not periodic, and its derivative there (de Boor's algorithm on homogeneous poles). */
export function splineAt(spline: SplineData, t: number): { at: number[]; slope: number[] } {
  const { degree, poles, knots } = spline;
  let span = degree;
  const last = knots.length - degree - 2;
  while (span < last && t >= knots[span + 1]!) span++;
  const size = poles[0]!.length;
  const stride = size + 1;
  const first = span - degree;
  const all = liftedOf(spline);
  for (let i = 0; i < (degree + 1) * stride; i++) row[i] = all[first * stride + i]!;
  for (let level = 1; level <= degree; level++) {
    if (level === degree) for (let i = 0; i < 2 * stride; i++) ends[i] = row[i]!;
    for (let j = 0; j <= degree - level; j++) {
      const i = first + level + j;
      const low = knots[i]!;
      const share = (t - low) / (knots[i + degree - level + 1]! - low);
      const at = j * stride;
      for (let k = at; k < at + stride; k++) row[k] = (1 - share) * row[k]! + share * row[k + stride]!;
    }
  }
  const width = knots[span + 1]! - knots[span]!;
  const w = row[size]!;
  const lead = (degree * (ends[stride + size]! - ends[size]!)) / width;
  const at: number[] = [];
  const slope: number[] = [];
  for (let k = 0; k < size; k++) {
    const value = row[k]! / w;
    at.push(value);
    slope.push(((degree * (ends[stride + k]! - ends[k]!)) / width - value * lead) / w);
  }
  return { at, slope };
}

/** How a parameter is to be read where knots go round on: as the one of the first round that stands for it. */
export function intoFirstRound(knots: readonly number[], periodic: boolean): (t: number) => number {
  const [from, to] = [knots[0]!, knots.at(-1)!];
  const period = to - from;
  if (!periodic || !(period > 0)) return (t) => t;
  return (t) => (t >= from && t <= to ? t : t - Math.floor((t - from) / period) * period);
}

/** Places where a spline is not smooth: its knots, each once. Of one that goes round on, those of two rounds before and after, too. */
export function breaksOf(knots: readonly number[], periodic: boolean): number[] {
  const once = [...new Set(knots)];
  if (!periodic) return once;
  const period = once.at(-1)! - once[0]!;
  return [...new Set([-2, -1, 0, 1, 2].flatMap((round) => once.map((knot) => knot + round * period)))];
}

/** The parameters between which a spline is one polynomial, within a range. */
export function spansOf({ knots, periodic }: SplineData, from: number, to: number): [number, number][] {
  const inner = breaksOf(knots, periodic).filter((knot) => knot > from && knot < to);
  const all = [from, ...inner, to];
  return all.slice(1).map((end, i) => [all[i]!, end]);
}
