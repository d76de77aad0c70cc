/**
 * A number with its derivatives by a few variables: forward automatic differentiation, so that the solver's Jacobian is
 * exact. (Griewank & Walther, Evaluating Derivatives, 2nd ed., ch. 3.)
 */
export interface Dual {
  v: number;
  d: Float64Array;
}

export const constant = (v: number, size: number): Dual => ({ v, d: new Float64Array(size) });

export function variable(v: number, place: number, size: number): Dual {
  const d = new Float64Array(size);
  d[place] = 1;
  return { v, d };
}

function combine(v: number, a: Dual, ka: number, b: Dual, kb: number): Dual {
  const d = new Float64Array(a.d.length);
  for (let i = 0; i < d.length; i++) d[i] = ka * a.d[i]! + kb * b.d[i]!;
  return { v, d };
}

function apply(v: number, a: Dual, k: number): Dual {
  const d = new Float64Array(a.d.length);
  for (let i = 0; i < d.length; i++) d[i] = k * a.d[i]!;
  return { v, d };
}

export const plus = (a: Dual, b: Dual): Dual => combine(a.v + b.v, a, 1, b, 1);
export const minus = (a: Dual, b: Dual): Dual => combine(a.v - b.v, a, 1, b, -1);
export const times = (a: Dual, b: Dual): Dual => combine(a.v * b.v, a, b.v, b, a.v);
export const over = (a: Dual, b: Dual): Dual => combine(a.v / b.v, a, 1 / b.v, b, -a.v / (b.v * b.v));
export const scaled = (a: Dual, k: number): Dual => apply(a.v * k, a, k);
export const shifted = (a: Dual, k: number): Dual => ({ v: a.v + k, d: a.d });

/** √(a² + b²); at 0, where it has no slope, the slope along a. */
export function hypot(a: Dual, b: Dual): Dual {
  const v = Math.hypot(a.v, b.v);
  return v === 0 ? apply(0, a, 1) : combine(v, a, a.v / v, b, b.v / v);
}

/** √a; at 0 and below, 0 without a slope. */
export function root(a: Dual): Dual {
  if (a.v <= 0) return apply(0, a, 0);
  const v = Math.sqrt(a.v);
  return apply(v, a, 0.5 / v);
}

export function atan2(y: Dual, x: Dual): Dual {
  const squared = x.v * x.v + y.v * y.v;
  if (squared === 0) return apply(0, x, 0);
  return combine(Math.atan2(y.v, x.v), y, x.v / squared, x, -y.v / squared);
}

/** A point or direction of duals. */
export type Pair = readonly [Dual, Dual];
export const pairMinus = (a: Pair, b: Pair): Pair => [minus(a[0], b[0]), minus(a[1], b[1])];
export const dot = (a: Pair, b: Pair): Dual => plus(times(a[0], b[0]), times(a[1], b[1]));
export const cross = (a: Pair, b: Pair): Dual => minus(times(a[0], b[1]), times(a[1], b[0]));
export const size = (a: Pair): Dual => hypot(a[0], a[1]);
