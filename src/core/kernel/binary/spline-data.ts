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
export function readSpline(bytes: Uint8Array, size: 2 | 3): SplineData {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 1;
  const byte = () => view.getUint8(at++);
  const real = () => {
    at += 8;
    return view.getFloat64(at - 8, true);
  };
  const integer = () => {
    at += 4;
    return view.getInt32(at - 4, true);
  };
  const rational = byte() !== 0;
  const periodic = byte() !== 0;
  const degree = view.getUint16(at, true);
  at += 2;
  const [poleCount, knotCount] = [integer(), integer()];
  const poles: number[][] = [];
  const weights: number[] = [];
  for (let i = 0; i < poleCount; i++) {
    poles.push(Array.from({ length: size }, real));
    if (rational) weights.push(real());
  }
  const knots: number[] = [];
  for (let i = 0; i < knotCount; i++) {
    const knot = real();
    const times = integer();
    for (let k = 0; k < times; k++) knots.push(knot);
  }
  return { degree, poles, weights: rational ? weights : null, knots, periodic };
}

/** A point of a spline that is not periodic, and its derivative there (de Boor's algorithm on homogeneous poles). */
export function splineAt(spline: SplineData, t: number): { at: number[]; slope: number[] } {
  const { degree, poles, weights, knots } = spline;
  let span = degree;
  const last = knots.length - degree - 2;
  while (span < last && t >= knots[span + 1]!) span++;
  const size = poles[0]!.length;
  const lifted = (i: number): number[] => {
    const w = weights?.[i] ?? 1;
    return [...poles[i]!.map((value) => value * w), w];
  };
  let row = Array.from({ length: degree + 1 }, (_, j) => lifted(span - degree + j));
  let ends: [number[], number[]] = [row[0]!, row[0]!];
  for (let level = 1; level <= degree; level++) {
    if (level === degree) ends = [row[0]!, row[1]!];
    row = row.slice(1).map((right, j) => {
      const i = span - degree + level + j;
      const low = knots[i]!;
      const share = (t - low) / (knots[i + degree - level + 1]! - low);
      return right.map((value, k) => (1 - share) * row[j]![k]! + share * value);
    });
  }
  const point = row[0]!;
  const width = knots[span + 1]! - knots[span]!;
  const lead = point.map((_, k) => (degree * (ends[1][k]! - ends[0][k]!)) / width);
  const w = point[size]!;
  const at = point.slice(0, size).map((value) => value / w);
  return { at, slope: at.map((value, k) => (lead[k]! - value * lead[size]!) / w) };
}

/** The parameters between which a spline is one polynomial, within a range. */
export function spansOf({ knots }: SplineData, from: number, to: number): [number, number][] {
  const inner = [...new Set(knots)].filter((knot) => knot > from && knot < to);
  const all = [from, ...inner, to];
  return all.slice(1).map((end, i) => [all[i]!, end]);
}
