import { type Cubic, cubicThrough, fromPieces, type Piece } from "../curve/through";
import type { Vec2 } from "./curves";

/**
 * A cubic B-spline (or of lower degree for fewer poles) with its knots in full: what the kernel makes its edge of, so
 * that the drawing and the solid have exactly the same curve. (Piegl & Tiller, The NURBS Book, 2nd ed., ch. 3 and 9.)
 */
export class Poles {
  constructor(
    readonly points: readonly Vec2[],
    /** Non-decreasing, points.length + degree + 1 of them, from 0 to 1. */
    readonly knots: readonly number[],
    readonly degree: number,
  ) {}

  at(t: number): Vec2 {
    return deBoor(this.points, this.knots, this.degree, t);
  }

  slope(t: number): Vec2 {
    const { points, knots, degree: p } = this;
    const differences = points.slice(1).map((point, i): Vec2 => {
      const span = knots[i + p + 1]! - knots[i + 1]!;
      const k = span > 0 ? p / span : 0;
      return [(point[0] - points[i]![0]) * k, (point[1] - points[i]![1]) * k];
    });
    return deBoor(differences, knots.slice(1, -1), p - 1, t);
  }

  /** The distinct knots: between two of them the curve is one polynomial. */
  breaks(): number[] {
    return [...new Set(this.knots)].filter((knot) => knot >= 0 && knot <= 1);
  }
}

function deBoor(points: readonly Vec2[], knots: readonly number[], p: number, t: number): Vec2 {
  const n = points.length - 1;
  let span = p;
  while (span < n && t >= knots[span + 1]!) span++;
  const d = points.slice(span - p, span + 1).map((point) => [point[0], point[1]] as [number, number]);
  for (let r = 1; r <= p; r++)
    for (let j = p; j >= r; j--) {
      const low = knots[j + span - p]!;
      const high = knots[j + 1 + span - r]!;
      const share = high > low ? (t - low) / (high - low) : 0;
      d[j]![0] = (1 - share) * d[j - 1]![0] + share * d[j]![0];
      d[j]![1] = (1 - share) * d[j - 1]![1] + share * d[j]![1];
    }
  return d[p]!;
}

/** The Bézier pieces of a spline, by their control points: blossoms of each span's ends (The NURBS Book, 5.6). */
export function piecesOf({ points, knots, degree }: Poles): Vec2[][] {
  const breaks = [...new Set(knots)].filter((knot) => knot >= knots[degree]! && knot <= knots[points.length]!);
  return breaks.slice(1).map((to, i) => {
    const from = breaks[i]!;
    // The span in which the stretch lies, with the poles that shape it.
    let span = degree;
    while (span < points.length - 1 && knots[span + 1]! <= from) span++;
    return Array.from({ length: degree + 1 }, (_, k) => {
      const d = points.slice(span - degree, span + 1).map(([x, y]) => [x, y] as [number, number]);
      for (let r = 1; r <= degree; r++) {
        // The blossom at `from` taken degree − k times, and `to` k times.
        const t = r <= degree - k ? from : to;
        for (let j = degree; j >= r; j--) {
          const low = knots[j + span - degree]!;
          const high = knots[j + 1 + span - r]!;
          const share = high > low ? (t - low) / (high - low) : 0;
          d[j]![0] = (1 - share) * d[j - 1]![0] + share * d[j]![0];
          d[j]![1] = (1 - share) * d[j - 1]![1] + share * d[j]![1];
        }
      }
      return d[degree]! as Vec2;
    });
  });
}

/** The spline that a person draws: through points, or with them as control points. */
export function splinePoles(
  points: readonly Vec2[],
  {
    form,
    closed,
    knots,
    degree = 3,
  }: {
    form: "through" | "control";
    closed: boolean;
    knots?: readonly number[] | undefined;
    degree?: number | undefined;
  },
): Poles {
  if (form === "control" && knots) {
    const [low, high] = [knots[degree]!, knots[points.length]!];
    return new Poles(
      points,
      knots.map((knot) => (knot - low) / (high - low)),
      degree,
    );
  }
  const ring = closed ? [...points, points[0]!] : points;
  if (form === "control") return controlled(closed && points.length > 2 ? points : ring, closed && points.length > 2);
  return planar(cubicThrough(points, { closed }));
}

function controlled(points: readonly Vec2[], closed: boolean): Poles {
  if (!closed) {
    const degree = Math.min(3, points.length - 1);
    const inner = points.length - degree;
    return new Poles(points, clamped(degree, inner), degree);
  }
  // A ring of control points: cubic pieces round it, each written with poles of its own ends.
  const n = points.length;
  const at = (i: number) => points[((i % n) + n) % n]!;
  const mix = (weights: readonly number[], i: number): Vec2 =>
    [0, 1].map((k) => weights.reduce((sum, w, j) => sum + w * at(i - 1 + j)[k]!, 0)) as [number, number];
  const pieces = points.map(
    (_, i): Piece => [
      mix([1 / 6, 4 / 6, 1 / 6, 0], i),
      mix([0, 2 / 3, 1 / 3, 0], i),
      mix([0, 1 / 3, 2 / 3, 0], i),
      mix([0, 1 / 6, 4 / 6, 1 / 6], i),
    ],
  );
  return planar(
    fromPieces(
      pieces,
      Array.from({ length: n + 1 }, (_, i) => i / n),
    ),
  );
}

const clamped = (degree: number, spans: number): number[] => [
  ...Array(degree + 1).fill(0),
  ...Array.from({ length: spans - 1 }, (_, i) => (i + 1) / spans),
  ...Array(degree + 1).fill(1),
];

const planar = ({ poles, knots, degree }: Cubic): Poles => new Poles(poles as unknown as Vec2[], knots, degree);
