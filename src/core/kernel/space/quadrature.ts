/** Nodes (one of each pair ±x) and weights of Gauss–Legendre integration with eight points (Abramowitz & Stegun, 25.4). */
const EIGHT = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;

/**
 * Integrates several functions at once over an interval, in equal pieces of eight points: a quarter turn of sines and
 * cosines is exact to rounding in one piece.
 * @param values the functions' values at a place, always as many.
 */
export function integrate(
  from: number,
  to: number,
  pieces: number,
  values: (t: number) => readonly number[],
): number[] {
  const sums: number[] = [];
  const half = (to - from) / pieces / 2;
  for (let piece = 0; piece < pieces; piece++) {
    const middle = from + (2 * piece + 1) * half;
    for (const [node, weight] of EIGHT)
      for (const t of [middle - node * half, middle + node * half])
        values(t).forEach((value, i) => {
          sums[i] = (sums[i] ?? 0) + value * weight * half;
        });
  }
  return sums;
}

type Values = (t: number, into: Float64Array) => void;

/** Integrates several functions at once by the eight points over one interval, into `sums`. */
function byEight(from: number, to: number, values: Values, own: Float64Array, sums: Float64Array): void {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  sums.fill(0);
  for (const [node, weight] of EIGHT)
    for (const t of [middle - node * half, middle + node * half]) {
      values(t, own);
      for (let i = 0; i < sums.length; i++) sums[i]! += own[i]! * weight * half;
    }
}

/**
 * Gauss–Kronrod integration with fifteen points, of which seven are a rule of their own to hold the fifteen against: nodes (one of each
 * pair ±x), their weights among the fifteen, and among the seven (Piessens et al., QUADPACK, 1983, qk15; digits from memory, held
 * against what the rules must integrate exactly).
 */
const KRONROD = [
  [0, 0.20948214108472782, 0.4179591836734694],
  [0.20778495500789848, 0.20443294007529889, 0],
  [0.4058451513773972, 0.1903505780647854, 0.3818300505051189],
  [0.5860872354676911, 0.1690047266392679, 0],
  [0.7415311855993945, 0.14065325971552592, 0.27970539148927664],
  [0.8648644233597691, 0.10479001032225019, 0],
  [0.9491079123427585, 0.06309209262997856, 0.1294849661688697],
  [0.9914553711208126, 0.022935322010529224, 0],
] as const;

/** Integrates several functions at once by the fifteen points over one interval, into `many`, and by the seven of them into `few`. */
function byKronrod(
  from: number,
  to: number,
  values: Values,
  own: Float64Array,
  few: Float64Array,
  many: Float64Array,
): void {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  few.fill(0);
  many.fill(0);
  for (const [node, weight, fewer] of KRONROD)
    for (let side = node === 0 ? 1 : -1; side <= 1; side += 2) {
      values(middle + side * node * half, own);
      for (let i = 0; i < many.length; i++) {
        many[i]! += own[i]! * weight * half;
        few[i]! += own[i]! * fewer * half;
      }
    }
}

/** Into how many halves of halves an interval is divided at most, before it is given up. */
const DEEPEST = 14;

/**
 * Integrates several functions at once to an accuracy: seven points are held against fifteen, and where they disagree the
 * interval is halved, as at a place where the functions are not smooth.
 * @param values writes the functions' values at a place. @param scale what each function's integral is measured by.
 * @param accuracy relative to what is measured by, over the whole interval; null for eight points as they are.
 * @returns false where they would not agree however often it was halved; what is added to `total` is void then.
 */
export function integrateTo(
  accuracy: number | null,
  from: number,
  to: number,
  values: Values,
  scale: readonly number[] | Float64Array,
  total: Float64Array,
): boolean {
  const size = total.length;
  const [own, few, many] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
  const part = (low: number, high: number, depth: number): boolean => {
    if (accuracy === null) byEight(low, high, values, own, many);
    else {
      byKronrod(low, high, values, own, few, many);
      // An eighth of the interval may be off by an eighth of what the whole may be, and no less than rounding makes it.
      const share = Math.max((high - low) / (to - from), 1e-3);
      const agrees = few.every((value, i) => Math.abs(value - many[i]!) <= accuracy * share * scale[i]!);
      if (!agrees) {
        if (depth >= DEEPEST || !many.every(Number.isFinite)) return false;
        const middle = (low + high) / 2;
        return part(low, middle, depth + 1) && part(middle, high, depth + 1);
      }
    }
    for (let i = 0; i < size; i++) total[i]! += many[i]!;
    return many.every(Number.isFinite);
  };
  return part(from, to, 0);
}

/** To what of itself the length of a curve is right. */
const ACCURACY = 1e-10;

/**
 * How long something is that goes on at a speed, between places where that is smooth.
 * @param speed mm for one of its parameter. @param breaks in order, the first and the last with them.
 */
export function lengthBetween(speed: (t: number) => number, breaks: readonly number[]): number {
  const about = [0];
  const spans = breaks.slice(1).map((to, i) => ({ from: breaks[i]!, to }));
  for (const { from, to } of spans) about[0]! += speed((from + to) / 2) * (to - from);
  let sum = 0;
  for (const { from, to } of spans) {
    const part = new Float64Array(1);
    // At the very point of a cusp halving ends before the two rules agree: what is left is some 1e-9 of the whole.
    if (!integrateTo(ACCURACY, from, to, (t, into) => into.fill(speed(t)), about, part)) {
      part.fill(0);
      const cells = 4096;
      for (let k = 0; k < cells; k++) {
        const [low, high] = [from + ((to - from) * k) / cells, from + ((to - from) * (k + 1)) / cells];
        integrateTo(null, low, high, (t, into) => into.fill(speed(t)), about, part);
      }
    }
    sum += part[0]!;
  }
  return sum;
}
