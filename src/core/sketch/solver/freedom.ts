import type { Equations } from "./equations";
import { linearise } from "./solve";

export interface Freedom {
  /** How many ways the drawing can still move. */
  degrees: number;
  /** For each unknown, whether it can still move. */
  loose: boolean[];
  /** Sets of sources of which one says what the others say already, or contradicts them. */
  dependent: Dependence[];
}

export interface Dependence {
  /** The constraint or dimension that came last. */
  source: Equations;
  /** Everything that it depends on, itself too. */
  among: Equations[];
}

/** A row counts as said already when less than this is left of it beside the others. */
const RANK = 1e-7;
/** An unknown can move when at least this much of it is free. */
const LOOSE = 1e-7;

/**
 * What can still move, and what is said twice. Rows of the Jacobian are taken in the order of the equations, and made
 * square to each other (modified Gram–Schmidt, twice: Golub & Van Loan, Matrix Computations, 4th ed., 5.2.9); a row of
 * which nothing is left depends on the rows before it, and its coefficients say on which.
 */
export function freedom(equations: readonly Equations[], x: Float64Array): Freedom {
  const n = x.length;
  // What curves are by themselves comes last: it is what was said that can say something twice.
  const last = ({ kind }: Equations) => (kind === "shape" ? 1 : 0);
  const { rows } = linearise(
    [...equations].sort((a, b) => last(a) - last(b)),
    x,
  );
  const basis: Float64Array[] = [];
  /** Each basis row as a sum of original rows, to name what a dependent one is made of. */
  const made: Map<number, number>[] = [];
  const dependent: Dependence[] = [];
  rows.forEach((row, i) => {
    const full = new Float64Array(n);
    row.unknowns.forEach((unknown, k) => {
      full[unknown] = row.slopes[k]!;
    });
    const size = norm(full);
    const parts = new Map<number, number>([[i, 1]]);
    if (size > 1e-12) for (let k = 0; k < n; k++) full[k]! /= size;
    for (let pass = 0; pass < 2; pass++)
      basis.forEach((other, b) => {
        const share = product(full, other);
        if (Math.abs(share) < 1e-14) return;
        for (let k = 0; k < n; k++) full[k]! -= share * other[k]!;
        for (const [source, weight] of made[b]!) parts.set(source, (parts.get(source) ?? 0) - share * weight);
      });
    const left = size > 1e-12 ? norm(full) : 0;
    if (left > RANK) {
      for (let k = 0; k < n; k++) full[k]! /= left;
      for (const [source, weight] of parts) parts.set(source, weight / left);
      basis.push(full);
      made.push(parts);
      return;
    }
    const among = [...parts].filter(([, weight]) => Math.abs(weight) > 1e-5).map(([source]) => rows[source]!.source);
    const known = dependent.find((entry) => entry.source === row.source);
    if (known) known.among = [...new Set([...known.among, ...among])];
    else dependent.push({ source: row.source, among: [...new Set([...among, row.source])] });
  });
  const held = new Float64Array(n);
  for (const row of basis) for (let k = 0; k < n; k++) held[k]! += row[k]! * row[k]!;
  return { degrees: n - basis.length, loose: [...held].map((share) => 1 - share > LOOSE), dependent };
}

const norm = (a: Float64Array): number => Math.sqrt(product(a, a));

function product(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
