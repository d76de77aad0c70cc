import { add, cross, dot, length, scale, sub, unit, type Vec3 } from "../kernel/space/vectors";

/** How what is drawn in one part lies in another, or in the job: turned (and turned over, where it is mirrored), then moved. Nothing is stretched. */
export interface Transform {
  /** The rows of the turn. */
  rows: readonly [Vec3, Vec3, Vec3];
  /** mm */
  by: Vec3;
}

export const IDENTITY: Transform = {
  rows: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  by: [0, 0, 0],
};

/** As twelve numbers: the three rows, then the move. */
export const numbersOf = ({ rows, by }: Transform): number[] => [...rows.flat(), ...by];

export function fromNumbers(numbers: readonly number[]): Transform {
  const three = (at: number): Vec3 => [numbers[at]!, numbers[at + 1]!, numbers[at + 2]!];
  return { rows: [three(0), three(3), three(6)], by: three(9) };
}

export const isIdentity = (transform: Transform): boolean =>
  numbersOf(transform).every((value, i) => value === numbersOf(IDENTITY)[i]);

/** A direction as it lies after it. */
export const turnedBy = ({ rows }: Transform, v: Vec3): Vec3 => [dot(rows[0], v), dot(rows[1], v), dot(rows[2], v)];

/** A point where it lies after it, mm. */
export const movedBy = (transform: Transform, at: Vec3): Vec3 => add(turnedBy(transform, at), transform.by);

/** First `inner`, then `outer`. */
export function after(outer: Transform, inner: Transform): Transform {
  const column = (k: number): Vec3 => turnedBy(outer, [inner.rows[0][k]!, inner.rows[1][k]!, inner.rows[2][k]!]);
  const [x, y, z] = [column(0), column(1), column(2)];
  return {
    rows: [
      [x[0], y[0], z[0]],
      [x[1], y[1], z[1]],
      [x[2], y[2], z[2]],
    ],
    by: movedBy(outer, inner.by),
  };
}

/** What undoes it: its turn's rows and columns change places. */
export function inverse({ rows: [a, b, c], by }: Transform): Transform {
  const turn: Transform = {
    rows: [
      [a[0], b[0], c[0]],
      [a[1], b[1], c[1]],
      [a[2], b[2], c[2]],
    ],
    by: [0, 0, 0],
  };
  // From 0, so that no number comes out as -0.
  return { ...turn, by: sub([0, 0, 0], turnedBy(turn, by)) };
}

/** How what lies in one part lies in another, by where both stand in the job. */
export function between(from: Transform, to: Transform): Transform {
  // Two parts that stand the same way lie to each other as they are drawn, whatever turning there and back leaves of the numbers.
  if (numbersOf(from).every((value, i) => value === numbersOf(to)[i])) return IDENTITY;
  return after(inverse(to), from);
}

/** Whether it turns right hands into left ones. */
export const isMirrored = ({ rows: [a, b, c] }: Transform): boolean => dot(cross(a, b), c) < 0;

/** Of a turn about a point, and a move after it. */
export function ofTurn({ about, axis, angle, by }: { about: Vec3; axis: Vec3; angle: number; by: Vec3 }): Transform {
  const turn = transformOf({ by: [0, 0, 0], turn: (angle * 180) / Math.PI, axis, mirror: "none" });
  return { ...turn, by: add(sub(about, turnedBy(turn, about)), by) };
}

/** Of values that are worked out: mm and degrees. */
export function transformOf({
  by,
  turn,
  axis,
  mirror,
}: {
  by: Vec3;
  turn: number;
  axis: Vec3;
  mirror: "none" | "x" | "y" | "z";
}): Transform {
  const u = unit(axis);
  const [c, s] = exactTurn(turn);
  const columns = [0, 1, 2].map((k): Vec3 => {
    const e: Vec3 = [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0];
    // Rodrigues' formula.
    const turned = add(add(scale(e, c), scale(cross(u, e), s)), scale(u, dot(u, e) * (1 - c)));
    return mirror === "xyz"[k] ? scale(turned, -1) : turned;
  });
  const row = (k: number): Vec3 => [columns[0]![k]! + 0, columns[1]![k]! + 0, columns[2]![k]! + 0];
  return { rows: [row(0), row(1), row(2)], by };
}

/** The values that a transform is written by: exact but for the rounding of numbers. */
export function valuesOf(transform: Transform): { by: Vec3; turn: number; axis: Vec3; mirror: "none" | "x" } {
  const mirror = isMirrored(transform) ? "x" : "none";
  const [a, b, c] = transform.rows.map(([x, y, z]): Vec3 => [mirror === "x" ? -x : x, y, z]) as [Vec3, Vec3, Vec3];
  const { axis, angle } = axisAndAngle({ rows: [a, b, c], by: [0, 0, 0] });
  return { by: transform.by, turn: (angle * 180) / Math.PI, axis, mirror };
}

/** Cosine and sine of degrees: without rounding where they are a quarter turn. */
function exactTurn(degrees: number): [number, number] {
  const quarter = (((degrees / 90) % 4) + 4) % 4;
  if (Number.isInteger(quarter)) return [[1, 0, -1, 0][quarter]!, [0, 1, 0, -1][quarter]!];
  const angle = (degrees * Math.PI) / 180;
  return [Math.cos(angle), Math.sin(angle)];
}

/** The turn of one that mirrors nothing: a unit axis, and an angle from 0 to half a turn, radians. */
export function axisAndAngle({ rows: [a, b, c] }: Transform): { axis: Vec3; angle: number } {
  const twice: Vec3 = [c[1] - b[2], a[2] - c[0], b[0] - a[1]];
  const doubled = a[0] + b[1] + c[2] - 1;
  const angle = Math.atan2(length(twice), doubled);
  if (doubled > 0) return length(twice) > 0 ? { axis: unit(twice), angle } : { axis: [0, 0, 1], angle: 0 };
  // Towards half a turn that difference fades, and its like, the sum, is best: (1 − cos) · 2uuᵀ.
  const columns: Vec3[] = [
    [2 * a[0] - doubled, b[0] + a[1], c[0] + a[2]],
    [a[1] + b[0], 2 * b[1] - doubled, c[1] + b[2]],
    [a[2] + c[0], b[2] + c[1], 2 * c[2] - doubled],
  ];
  const axis = unit(columns.reduce((best, column) => (length(column) > length(best) ? column : best)));
  return { axis: dot(axis, twice) < 0 ? scale(axis, -1) : axis, angle };
}
