/** The basis functions of a spline that are not 0 at one place, with their derivatives: rows of `degree + 1` numbers. */
export interface Basis {
  /** The first pole that counts. */
  first: number;
  /** Values, then first derivatives, then second. */
  rows: [Float64Array, Float64Array, Float64Array];
}

/** Room for the highest degree that the library writes. */
const MOST = 26;

export const newBasis = (): Basis => ({
  first: 0,
  rows: [new Float64Array(MOST), new Float64Array(MOST), new Float64Array(MOST)],
});

const triangle = Array.from({ length: MOST }, () => new Float64Array(MOST));
const left = new Float64Array(MOST);
const right = new Float64Array(MOST);

/**
 * Works out the basis functions at a place, by Cox and de Boor's recursion, and their derivatives up to the second from
 * those of lower degree (Piegl & Tiller, The NURBS Book, 2nd ed., 2.2 to 2.5).
 * @param knots every knot as often as it counts. @param into what is filled.
 * @param orders how many derivatives are wanted; the second stay as they were where one is.
 */
export function basisAt(knots: readonly number[], degree: number, t: number, into: Basis, orders: 1 | 2 = 2): void {
  const last = knots.length - degree - 2;
  let span = degree;
  while (span < last && t >= knots[span + 1]!) span++;
  into.first = span - degree;
  // triangle[p][j]: the value of the j-th function of degree p that is not 0 there.
  triangle[0]![0] = 1;
  for (let p = 1; p <= degree; p++) {
    left[p] = t - knots[span + 1 - p]!;
    right[p] = knots[span + p]! - t;
    const [lower, row] = [triangle[p - 1]!, triangle[p]!];
    let saved = 0;
    for (let j = 0; j < p; j++) {
      const wide = right[j + 1]! + left[p - j]!;
      const share = wide > 0 ? lower[j]! / wide : 0;
      row[j] = saved + right[j + 1]! * share;
      saved = left[p - j]! * share;
    }
    row[p] = saved;
  }
  const [values, first, second] = into.rows;
  for (let j = 0; j <= degree; j++) values[j] = triangle[degree]![j]!;
  derived(knots, degree, span, degree >= 1 ? triangle[degree - 1]! : null, first);
  if (orders === 1) return;
  if (degree < 2) second.fill(0, 0, degree + 1);
  else {
    derived(knots, degree - 1, span, triangle[degree - 2]!, lowerSlopes);
    derived(knots, degree, span, lowerSlopes, second);
  }
}

const lowerSlopes = new Float64Array(MOST);

/** Derivatives of the functions of a degree from values (or derivatives) of those of the degree below. */
function derived(
  knots: readonly number[],
  degree: number,
  span: number,
  lower: Float64Array | null,
  into: Float64Array,
): void {
  for (let j = 0; j <= degree; j++) {
    const i = span - degree + j;
    const before = j > 0 ? (lower?.[j - 1] ?? 0) : 0;
    const after = j < degree ? (lower?.[j] ?? 0) : 0;
    const [rise, fall] = [knots[i + degree]! - knots[i]!, knots[i + degree + 1]! - knots[i + 1]!];
    into[j] = degree * ((before && rise > 0 ? before / rise : 0) - (after && fall > 0 ? after / fall : 0));
  }
}
