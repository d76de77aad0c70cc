import { basisAt, newBasis } from "./basis";
import { conicTerms, isConic } from "./conics";
import type { Curve } from "./curves";
import { type Place, placed, turned } from "./places";
import { breaksOf, intoFirstRound, type SplineData, splineAt, unwrapped } from "./spline-data";

/** A point of a curve, and how it goes on from there: the derivative by the curve's parameter. */
export interface CurvePoint {
  at: number[];
  slope: number[];
}

/** The way to the points of a curve, where it lies; null for one that is asked of the library: one that runs beside another. */
export function pointsOf(curve: Curve): ((t: number) => CurvePoint) | null {
  if (curve.kind === "line") {
    const { at, way } = curve;
    return (t) => ({ at: at.map((value, i) => value + t * way[i]!), slope: [...way] });
  }
  if (isConic(curve)) {
    const { at, x, y } = curve;
    return (t) => {
      const terms = conicTerms(curve, t);
      return {
        at: at.map((value, i) => value + terms.x[0] * x[i]! + terms.y[0] * y[i]!),
        slope: at.map((_, i) => terms.x[1] * x[i]! + terms.y[1] * y[i]!),
      };
    };
  }
  const written = curve.kind === "spline" ? curve.spline?.() : undefined;
  if (!written) return null;
  const spline = unwrapped(written);
  const first = intoFirstRound(written.knots, written.periodic);
  const place = movedBy(curve);
  if (!place) return (t) => splineAt(spline, first(t));
  return (t) => {
    const { at, slope } = splineAt(spline, first(t));
    return { at: [...placed(place, at)], slope: [...turned(place, slope)] };
  };
}

/** Writes a point in space, and the first and second derivative there, into nine numbers. */
export type Derivatives = (t: number, into: Float64Array) => void;

/** The same of a curve in space with its second derivative, and the places where it is not smooth. */
export function derivativesOf(curve: Curve): { at: Derivatives; breaks: readonly number[] } | null {
  if (curve.kind === "line") {
    const { at, way } = curve;
    return {
      breaks: [],
      at: (t, into) => {
        for (let i = 0; i < 3; i++) {
          into[i] = at[i]! + t * way[i]!;
          into[3 + i] = way[i]!;
          into[6 + i] = 0;
        }
      },
    };
  }
  if (isConic(curve)) {
    const { at, x, y } = curve;
    return {
      breaks: [],
      at: (t, into) => {
        const terms = conicTerms(curve, t);
        for (let order = 0; order < 3; order++)
          for (let i = 0; i < 3; i++)
            into[3 * order + i] = (order === 0 ? at[i]! : 0) + terms.x[order]! * x[i]! + terms.y[order]! * y[i]!;
      },
    };
  }
  const written = curve.kind === "spline" ? curve.spline?.() : undefined;
  if (!written) return null;
  const breaks = breaksOf(written.knots, written.periodic);
  const first = intoFirstRound(written.knots, written.periodic);
  const round = splineDerivatives(unwrapped(written));
  const own: Derivatives = (t, into) => round(first(t), into);
  const place = movedBy(curve);
  if (!place) return { breaks, at: own };
  return {
    breaks,
    at: (t, into) => {
      own(t, into);
      for (let order = 0; order < 3; order++) {
        const numbers = into.subarray(3 * order, 3 * order + 3) as unknown as readonly number[];
        into.set(order === 0 ? placed(place, numbers) : turned(place, numbers), 3 * order);
      }
    },
  };
}

/** Where a curve that is not read in detail was moved to. */
function movedBy(curve: Curve): Place | null {
  const matrix = "matrix" in curve ? curve.matrix : undefined;
  return matrix ? { id: 1, matrix } : null;
}

function splineDerivatives({ degree, knots, poles, weights }: SplineData): Derivatives {
  const basis = newBasis();
  // Sums of poles times their weights, and of the weights: each with its derivatives.
  const sums = new Float64Array(12);
  return (t, into) => {
    basisAt(knots, degree, t, basis);
    sums.fill(0);
    for (let j = 0; j <= degree; j++) {
      const pole = poles[basis.first + j]!;
      const w = weights?.[basis.first + j] ?? 1;
      for (let order = 0; order < 3; order++) {
        const share = basis.rows[order]![j]! * w;
        for (let i = 0; i < 3; i++) sums[4 * order + i]! += share * pole[i]!;
        sums[4 * order + 3]! += share;
      }
    }
    const [w, w1, w2] = [sums[3]!, sums[7]!, sums[11]!];
    for (let i = 0; i < 3; i++) {
      const p = sums[i]! / w;
      const d = (sums[4 + i]! - w1 * p) / w;
      into[i] = p;
      into[3 + i] = d;
      into[6 + i] = (sums[8 + i]! - 2 * w1 * d - w2 * p) / w;
    }
  };
}
