/** A place in a plane or in space. */
type Place = readonly number[];

/** A B-spline with simple inner knots from 0 to 1, in full: poles.length + degree + 1 of them. */
export interface Cubic {
  poles: Place[];
  knots: number[];
  /** 3, or 1 for two points that are only joined. */
  degree: number;
}

/** The four control points of a cubic piece. */
export type Piece = readonly [Place, Place, Place, Place];

/** How a curve leaves its first point, or reaches its last: a direction of any length. Straight (natural) where there is none. */
export interface Ends {
  start?: Place | null;
  end?: Place | null;
}

/**
 * The cubic with continuous curvature through points, in a plane or in space: its parameters by the square root of the chords
 * (centripetal), which keeps it from overshooting; straight at its ends (natural spline), or along the directions that are given.
 * (The NURBS Book, 9.2.) @param points no two that follow each other are one.
 */
export function cubicThrough(
  points: readonly Place[],
  { closed = false, start, end }: Ends & { closed?: boolean } = {},
): Cubic {
  const ring = closed ? [...points, points[0]!] : [...points];
  if (ring.length === 2 && !start && !end) return { poles: ring, knots: [0, 0, 1, 1], degree: 1 };
  const t = parameters(ring);
  const axes = points[0]!.map((_, k) => k);
  if (closed) {
    const slopes = axes.map((k) =>
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
  // As fast at its ends as the chord there is passed.
  const first = start ? speed(ring[0]!, ring[1]!, t[1]! - t[0]!, start) : null;
  const last = end ? speed(ring.at(-2)!, ring.at(-1)!, t.at(-1)! - t.at(-2)!, end) : null;
  const slopes = axes.map((k) =>
    endedSlopes(
      t,
      ring.map((point) => point[k]!),
      first?.[k] ?? null,
      last?.[k] ?? null,
    ),
  );
  return fromSlopes(ring, t, slopes);
}

function speed(a: Place, b: Place, time: number, way: Place): Place {
  const chord = Math.hypot(...b.map((value, k) => value - a[k]!));
  const long = Math.hypot(...way);
  return way.map((value) => (value * chord) / (long * time));
}

/**
 * One B-spline from cubic pieces whose curvature runs on from each to the next: pole j is the blossom of three knots in
 * a row (Ramshaw 1987; The NURBS Book, 5.6), so every inner knot is simple.
 */
export function fromPieces(pieces: readonly Piece[], breaks: readonly number[]): Cubic {
  const knots = [0, 0, 0, ...breaks, 1, 1, 1];
  const poles = Array.from({ length: pieces.length + 3 }, (_, j): Place => {
    const args = [knots[j + 1]!, knots[j + 2]!, knots[j + 3]!] as const;
    const place = Math.min(Math.max(j - 1, 0), pieces.length - 1);
    return blossom(pieces[place]!, breaks[place]!, breaks[place + 1]!, args);
  });
  return { poles, knots, degree: 3 };
}

function blossom(piece: Piece, from: number, to: number, args: readonly [number, number, number]): Place {
  let points: Place[] = [...piece];
  for (const arg of args) {
    const share = (arg - from) / (to - from);
    points = points
      .slice(1)
      .map((point, i): Place => point.map((value, k) => points[i]![k]! * (1 - share) + value * share));
  }
  return points[0]!;
}

/** Parameters from 0 to 1 by the square root of the chords. */
function parameters(points: readonly Place[]): number[] {
  const steps = points
    .slice(1)
    .map((p, i) => Math.sqrt(Math.hypot(...p.map((value, k) => value - points[i]![k]!))) || 1e-6);
  const total = steps.reduce((sum, step) => sum + step, 0);
  let at = 0;
  return [0, ...steps.map((step) => (at += step / total))].map((t, i, all) => (i === all.length - 1 ? 1 : t));
}

function fromSlopes(points: readonly Place[], t: readonly number[], slopes: readonly (readonly number[])[]): Cubic {
  const pieces = points.slice(1).map((b, i): Piece => {
    const a = points[i]!;
    const h = (t[i + 1]! - t[i]!) / 3;
    return [a, a.map((value, k) => value + slopes[k]![i]! * h), b.map((value, k) => value - slopes[k]![i + 1]! * h), b];
  });
  return fromPieces(pieces, t);
}

/**
 * Slopes at the knots of the cubic spline through values: a tridiagonal system (The NURBS Book, 9.2; Thomas's algorithm).
 * @param first the slope at the first, @param last at the last; null where the curvature is none there.
 */
function endedSlopes(t: readonly number[], y: readonly number[], first: number | null, last: number | null): number[] {
  const n = y.length;
  const h = t.slice(1).map((value, i) => value - t[i]!);
  const low: number[] = [];
  const mid: number[] = [];
  const high: number[] = [];
  const right: number[] = [];
  for (let i = 0; i < n; i++) {
    const given = i === 0 ? first : i === n - 1 ? last : null;
    if (given !== null) {
      low.push(0);
      mid.push(1);
      high.push(0);
      right.push(given);
      continue;
    }
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
