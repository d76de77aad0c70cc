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
  return closed ? interpolatedRing(points) : interpolated(ring);
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
  return fromPieces(
    pieces,
    Array.from({ length: n + 1 }, (_, i) => i / n),
  );
}

/** The four control points of a cubic piece. */
type Piece = readonly [Vec2, Vec2, Vec2, Vec2];

/**
 * One B-spline from cubic pieces whose curvature runs on from each to the next: pole j is the blossom of three knots in
 * a row (Ramshaw 1987; The NURBS Book, 5.6), so every inner knot is simple.
 */
function fromPieces(pieces: readonly Piece[], breaks: readonly number[]): Poles {
  const knots = [0, 0, 0, ...breaks, 1, 1, 1];
  const poles = Array.from({ length: pieces.length + 3 }, (_, j): Vec2 => {
    const args = [knots[j + 1]!, knots[j + 2]!, knots[j + 3]!] as const;
    const place = Math.min(Math.max(j - 1, 0), pieces.length - 1);
    return blossom(pieces[place]!, breaks[place]!, breaks[place + 1]!, args);
  });
  return new Poles(poles, knots, 3);
}

function blossom(piece: Piece, from: number, to: number, args: readonly [number, number, number]): Vec2 {
  let points: Vec2[] = [...piece];
  for (const arg of args) {
    const share = (arg - from) / (to - from);
    points = points
      .slice(1)
      .map(
        (point, i): Vec2 => [
          points[i]![0] * (1 - share) + point[0] * share,
          points[i]![1] * (1 - share) + point[1] * share,
        ],
      );
  }
  return points[0]!;
}

const clamped = (degree: number, spans: number): number[] => [
  ...Array(degree + 1).fill(0),
  ...Array.from({ length: spans - 1 }, (_, i) => (i + 1) / spans),
  ...Array(degree + 1).fill(1),
];

/** Parameters by the square root of the chords (centripetal), which keeps curves from overshooting. */
function parameters(points: readonly Vec2[]): number[] {
  const steps = points
    .slice(1)
    .map((p, i) => Math.sqrt(Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1])) || 1e-6);
  const total = steps.reduce((sum, step) => sum + step, 0);
  let at = 0;
  return [0, ...steps.map((step) => (at += step / total))].map((t, i, all) => (i === all.length - 1 ? 1 : t));
}

/** The cubic with continuous curvature through points, straight at its ends (natural spline). */
function interpolated(points: readonly Vec2[]): Poles {
  if (points.length === 2) return new Poles(points, [0, 0, 1, 1], 1);
  const t = parameters(points);
  const slopes = [0, 1].map((k) =>
    naturalSlopes(
      t,
      points.map((point) => point[k]!),
    ),
  );
  return fromSlopes(points, t, slopes);
}

function interpolatedRing(points: readonly Vec2[]): Poles {
  const ring = [...points, points[0]!];
  const t = parameters(ring);
  const slopes = [0, 1].map((k) =>
    periodicSlopes(
      t,
      points.map((point) => point[k]!),
    ),
  );
  return fromSlopes(
    ring,
    t,
    slopes.map((list) => [...list, list[0]!]),
  );
}

function fromSlopes(points: readonly Vec2[], t: readonly number[], slopes: readonly (readonly number[])[]): Poles {
  const pieces = points.slice(1).map((b, i): Piece => {
    const a = points[i]!;
    const h = (t[i + 1]! - t[i]!) / 3;
    return [
      a,
      [a[0] + slopes[0]![i]! * h, a[1] + slopes[1]![i]! * h],
      [b[0] - slopes[0]![i + 1]! * h, b[1] - slopes[1]![i + 1]! * h],
      b,
    ];
  });
  return fromPieces(pieces, t);
}

/** Slopes at the knots of the natural cubic spline: a tridiagonal system (The NURBS Book, 9.2; Thomas's algorithm). */
function naturalSlopes(t: readonly number[], y: readonly number[]): number[] {
  const n = y.length;
  const h = t.slice(1).map((value, i) => value - t[i]!);
  const low: number[] = [];
  const mid: number[] = [];
  const high: number[] = [];
  const right: number[] = [];
  for (let i = 0; i < n; i++) {
    const before = i > 0 ? 1 / h[i - 1]! : 0;
    const after = i < n - 1 ? 1 / h[i]! : 0;
    low.push(before);
    mid.push(2 * (before + after));
    high.push(after);
    const rise = (j: number) => (y[j + 1]! - y[j]!) / (h[j]! * h[j]!);
    right.push(3 * ((i > 0 ? rise(i - 1) : 0) + (i < n - 1 ? rise(i) : 0)));
  }
  return tridiagonal(low, mid, high, right);
}

/** The same round a ring, by the Sherman–Morrison formula. */
function periodicSlopes(t: readonly number[], y: readonly number[]): number[] {
  const n = y.length;
  const h = t.slice(1).map((value, i) => value - t[i]!);
  const inverse = (i: number) => 1 / h[((i % n) + n) % n]!;
  const rise = (i: number) => {
    const j = ((i % n) + n) % n;
    return (y[(j + 1) % n]! - y[j]!) / (h[j]! * h[j]!);
  };
  const low = Array.from({ length: n }, (_, i) => inverse(i - 1));
  const high = Array.from({ length: n }, (_, i) => inverse(i));
  const mid = Array.from({ length: n }, (_, i) => 2 * (inverse(i - 1) + inverse(i)));
  const right = Array.from({ length: n }, (_, i) => 3 * (rise(i - 1) + rise(i)));
  const corner = inverse(-1);
  const gamma = -mid[0]!;
  const changed = [...mid];
  changed[0]! -= gamma;
  changed[n - 1]! -= (corner * corner) / gamma;
  const u = Array(n).fill(0) as number[];
  u[0] = gamma;
  u[n - 1] = corner;
  const p = tridiagonal(low, changed, high, right);
  const q = tridiagonal(low, changed, high, u);
  const share = (p[0]! + (corner * p[n - 1]!) / gamma) / (1 + q[0]! + (corner * q[n - 1]!) / gamma);
  return p.map((value, i) => value - share * q[i]!);
}

function tridiagonal(
  low: readonly number[],
  mid: readonly number[],
  high: readonly number[],
  right: readonly number[],
): number[] {
  const n = mid.length;
  const c: number[] = [];
  const d: number[] = [];
  for (let i = 0; i < n; i++) {
    const m = mid[i]! - (i > 0 ? low[i]! * c[i - 1]! : 0);
    c.push(i < n - 1 ? high[i]! / m : 0);
    d.push((right[i]! - (i > 0 ? low[i]! * d[i - 1]! : 0)) / m);
  }
  for (let i = n - 2; i >= 0; i--) d[i]! -= c[i]! * d[i + 1]!;
  return d;
}
