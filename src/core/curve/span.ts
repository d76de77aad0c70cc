import { lengthBetween } from "../kernel/space/quadrature";
import { add, cross, distance, dot, length, scale, sub, unit, type Vec3 } from "../kernel/space/vectors";
import { SAME_PLACE } from "../tolerance";

/** A part of a curve in space, from one place to another: straight, or one smooth spline. */
export type CurveSpan = { id: string } & (
  | { kind: "line"; from: Vec3; to: Vec3 }
  /** Knots in full, from 0 to 1: poles.length + degree + 1 of them. */
  | { kind: "spline"; poles: readonly Vec3[]; knots: readonly number[]; degree: number }
);

/** Where a span is at a parameter from 0 to 1. */
export function spanAt(span: CurveSpan, t: number): Vec3 {
  if (span.kind === "line") return add(scale(span.from, 1 - t), scale(span.to, t));
  return deBoor(span.poles, span.knots, span.degree, t);
}

/** How a span runs at a parameter: mm for the whole of its parameter. */
export function spanSlope(span: CurveSpan, t: number): Vec3 {
  if (span.kind === "line") return sub(span.to, span.from);
  const { poles, knots, degree: p } = span;
  const differences = poles.slice(1).map((pole, i): Vec3 => {
    const wide = knots[i + p + 1]! - knots[i + 1]!;
    return scale(sub(pole, poles[i]!), wide > 0 ? p / wide : 0);
  });
  return deBoor(differences, knots.slice(1, -1), p - 1, t);
}

function deBoor(poles: readonly Vec3[], knots: readonly number[], p: number, t: number): Vec3 {
  const n = poles.length - 1;
  let at = p;
  while (at < n && t >= knots[at + 1]!) at++;
  const d = poles.slice(at - p, at + 1);
  for (let r = 1; r <= p; r++)
    for (let j = p; j >= r; j--) {
      const low = knots[j + at - p]!;
      const high = knots[j + 1 + at - r]!;
      const share = high > low ? (t - low) / (high - low) : 0;
      d[j] = add(scale(d[j - 1]!, 1 - share), scale(d[j]!, share));
    }
  return d[p]!;
}

/** The parameters between which a span is one polynomial. */
const breaksOf = (span: CurveSpan): number[] => (span.kind === "line" ? [0, 1] : [...new Set(span.knots)]);

/** How long a span is, mm: of a spline to about 1e-10 of it. */
export function spanLength(span: CurveSpan): number {
  if (span.kind === "line") return distance(span.from, span.to);
  return lengthBetween((t) => length(spanSlope(span, t)), breaksOf(span));
}

/** Where a span is so far along it by length, mm: the parameter is found by Newton's method, within where it can be. */
function spanAtLength(span: CurveSpan, along: number): Vec3 {
  const whole = spanLength(span);
  if (span.kind === "line" || whole === 0) return spanAt(span, whole > 0 ? along / whole : 0);
  const speed = (t: number) => length(spanSlope(span, t));
  const upTo = (t: number) => lengthBetween(speed, [...breaksOf(span).filter((knot) => knot < t), t]);
  let [low, high, t] = [0, 1, along / whole];
  for (let round = 0; round < 60; round++) {
    const over = upTo(t) - along;
    if (Math.abs(over) <= 1e-10 * whole) break;
    if (over > 0) high = t;
    else low = t;
    const next = t - over / speed(t);
    t = next > low && next < high ? next : (low + high) / 2;
  }
  return spanAt(span, t);
}

/** Where a curve of spans is so far along it, mm. */
export function placeAlong(spans: readonly CurveSpan[], along: number): Vec3 {
  let left = along;
  for (const span of spans.slice(0, -1)) {
    const long = spanLength(span);
    if (left <= long) return spanAtLength(span, left);
    left -= long;
  }
  const last = spans.at(-1)!;
  return spanAtLength(last, Math.min(left, spanLength(last)));
}

/** A span as a chain of places, each stretch turning by no more than `turn` radians and staying within `sag` mm of it. */
export function spanPlaces(span: CurveSpan, sag: number, turn = 0.2): Vec3[] {
  if (span.kind === "line") return [span.from, span.to];
  const places: Vec3[] = [spanAt(span, 0)];
  const run = (from: number, to: number, depth: number): void => {
    const [a, m, b] = [spanAt(span, from), spanAt(span, (from + to) / 2), spanAt(span, to)];
    const chord = sub(b, a);
    const away = length(chord) > 0 ? length(cross(unit(chord), sub(m, a))) : distance(m, a);
    const bent = dot(unit(spanSlope(span, from)), unit(spanSlope(span, to))) < Math.cos(turn);
    if (depth < 12 && (away > sag || bent)) {
      run(from, (from + to) / 2, depth + 1);
      run((from + to) / 2, to, depth + 1);
    } else places.push(b);
  };
  const breaks = breaksOf(span);
  for (const [i, to] of breaks.slice(1).entries()) run(breaks[i]!, to, 0);
  return places;
}

/** Where a curve of spans begins and ends. */
export const curveEnds = (spans: readonly CurveSpan[]): [Vec3, Vec3] => [
  spanAt(spans[0]!, 0),
  spanAt(spans.at(-1)!, 1),
];

/** Whether a curve ends where it begins. */
export function isClosed(spans: readonly CurveSpan[]): boolean {
  const [start, end] = curveEnds(spans);
  return distance(start, end) < SAME_PLACE;
}

/** How long a curve is, mm. */
export const lengthOf = (spans: readonly CurveSpan[]): number => spans.reduce((sum, span) => sum + spanLength(span), 0);

/** A span with each of its places changed: turned and moved. */
export function mappedSpan(span: CurveSpan, change: (at: Vec3) => Vec3): CurveSpan {
  if (span.kind === "line") return { ...span, from: change(span.from), to: change(span.to) };
  return { ...span, poles: span.poles.map(change) };
}
