import type { Equations } from "./equations";

export interface Solved {
  x: Float64Array;
  /** The largest equation left over, mm. */
  residual: number;
  rounds: number;
}

/** An equation is met when no more than this is left, mm. */
const MET = 1e-10;
const MAX_ROUNDS = 120;

/**
 * Moves the unknowns so that every equation is met, by as little as can be (Levenberg–Marquardt on the least-norm step:
 * Nocedal & Wright, Numerical Optimization, 2nd ed., ch. 10). The step depends on the equations only as a set, so their
 * order does not matter.
 *
 * @param ease how easily each unknown moves against the others, 1 as a rule; small for one that is held by the pointer.
 */
export function solve(equations: readonly Equations[], start: Float64Array, ease?: Float64Array): Solved {
  let x = start.slice();
  let state = linearise(equations, x);
  let damping = 1e-9;
  let rounds = 0;
  while (state.largest > MET && rounds < MAX_ROUNDS) {
    rounds++;
    const step = leastStep(state, x.length, damping, ease);
    if (!step) {
      damping = Math.max(damping * 100, 1e-9);
      if (damping > 1e6) break;
      continue;
    }
    const next = x.slice();
    let moved = 0;
    for (let i = 0; i < x.length; i++) {
      next[i] = x[i]! + step[i]!;
      moved = Math.max(moved, Math.abs(step[i]!));
    }
    const after = linearise(equations, next);
    if (after.squared < state.squared) {
      x = next;
      state = after;
      damping = Math.max(damping * 0.1, 1e-12);
    } else {
      damping = Math.max(damping * 10, 1e-9);
      if (damping > 1e8 || moved < 1e-14) break;
    }
  }
  return { x, residual: state.largest, rounds };
}

/** The equations at some values: what is left of each, and its slopes by its own unknowns. */
export interface Linear {
  rows: { unknowns: readonly number[]; slopes: Float64Array; value: number; source: Equations }[];
  squared: number;
  largest: number;
}

export function linearise(equations: readonly Equations[], x: Float64Array): Linear {
  const rows: Linear["rows"] = [];
  let squared = 0;
  let largest = 0;
  for (const source of equations)
    for (const { v, d } of source.run(x)) {
      rows.push({ unknowns: source.unknowns, slopes: d, value: v, source });
      squared += v * v;
      largest = Math.max(largest, Math.abs(v));
    }
  if (!Number.isFinite(squared)) return { rows, squared: Number.POSITIVE_INFINITY, largest: Number.POSITIVE_INFINITY };
  return { rows, squared, largest };
}

/** The smallest step that meets the linearised equations: Jᵀ(JJᵀ + λ)⁻¹(−r), each unknown weighed by its ease. */
function leastStep(
  { rows }: Linear,
  unknowns: number,
  damping: number,
  ease: Float64Array | undefined,
): Float64Array | null {
  const m = rows.length;
  // Which rows look at an unknown: only they meet in JJᵀ.
  const lookers: { row: number; slope: number }[][] = Array.from({ length: unknowns }, () => []);
  rows.forEach((row, i) => {
    row.unknowns.forEach((unknown, k) => {
      const slope = row.slopes[k]!;
      if (slope !== 0) lookers[unknown]!.push({ row: i, slope });
    });
  });
  const a = new Float64Array(m * m);
  for (let u = 0; u < unknowns; u++) {
    const weight = ease?.[u] ?? 1;
    const list = lookers[u]!;
    for (const p of list) for (const q of list) if (q.row <= p.row) a[p.row * m + q.row]! += weight * p.slope * q.slope;
  }
  let trace = 0;
  for (let i = 0; i < m; i++) trace += a[i * m + i]!;
  const ridge = damping * Math.max(trace / Math.max(m, 1), 1e-12);
  for (let i = 0; i < m; i++) a[i * m + i]! += ridge;
  const y = new Float64Array(m);
  for (let i = 0; i < m; i++) y[i] = -rows[i]!.value;
  if (!solveSymmetric(a, y, m)) return null;
  const step = new Float64Array(unknowns);
  rows.forEach((row, i) => {
    row.unknowns.forEach((unknown, k) => {
      step[unknown]! += (ease?.[unknown] ?? 1) * row.slopes[k]! * y[i]!;
    });
  });
  return step.every(Number.isFinite) ? step : null;
}

/** Cholesky's method in place on the lower triangle; false when the matrix is not positive definite. */
function solveSymmetric(a: Float64Array, y: Float64Array, m: number): boolean {
  for (let i = 0; i < m; i++) {
    // Zeros before the first entry of a row stay zero: most rows look at few others.
    let lead = 0;
    while (lead < i && a[i * m + lead] === 0) lead++;
    for (let j = lead; j < i; j++) {
      let sum = a[i * m + j]!;
      for (let k = lead; k < j; k++) sum -= a[i * m + k]! * a[j * m + k]!;
      a[i * m + j] = sum / a[j * m + j]!;
    }
    let sum = a[i * m + i]!;
    for (let k = lead; k < i; k++) sum -= a[i * m + k]! ** 2;
    if (!(sum > 0)) return false;
    a[i * m + i] = Math.sqrt(sum);
  }
  for (let i = 0; i < m; i++) {
    let sum = y[i]!;
    for (let k = 0; k < i; k++) sum -= a[i * m + k]! * y[k]!;
    y[i] = sum / a[i * m + i]!;
  }
  for (let i = m - 1; i >= 0; i--) {
    let sum = y[i]!;
    for (let k = i + 1; k < m; k++) sum -= a[k * m + i]! * y[k]!;
    y[i] = sum / a[i * m + i]!;
  }
  return true;
}
