/** A point or a direction in millimetres. */
export type Vec3 = readonly [number, number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Vec3, b: Vec3): number => length(sub(a, b));
/** The unit vector; a zero vector stays zero. */
export const unit = (a: Vec3): Vec3 => {
  const l = length(a);
  return l > 0 ? scale(a, 1 / l) : a;
};

/** The eight corners of a box. */
export function corners({ min, max }: Box): Vec3[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map(
    (i): Vec3 => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]],
  );
}

/** `v` turned about a unit axis (Rodrigues' formula), radians. */
export function turned(v: Vec3, axis: Vec3, angle: number): Vec3 {
  const c = Math.cos(angle);
  return add(add(scale(v, c), scale(cross(axis, v), Math.sin(angle))), scale(axis, dot(axis, v) * (1 - c)));
}

/** An axis-aligned box, millimetres. */
export interface Box {
  min: Vec3;
  max: Vec3;
}

export const diagonal = (box: Box): number => distance(box.min, box.max);
export const centre = (box: Box): Vec3 => scale(add(box.min, box.max), 0.5);
/** Whether two boxes come nearer to each other than some room, mm. It is asked of millions of pairs: no list is made for it. */
export function boxesMeet(a: Box, b: Box, room: number): boolean {
  for (let k = 0; k < 3; k++) if (a.min[k]! > b.max[k]! + room || b.min[k]! > a.max[k]! + room) return false;
  return true;
}
/** A box with more room all round, mm. */
export const grownBox = ({ min, max }: Box, by: number): Box => ({
  min: [min[0] - by, min[1] - by, min[2] - by],
  max: [max[0] + by, max[1] + by, max[2] + by],
});
export function unionBox(a: Box, b: Box): Box {
  return {
    min: [Math.min(a.min[0], b.min[0]), Math.min(a.min[1], b.min[1]), Math.min(a.min[2], b.min[2])],
    max: [Math.max(a.max[0], b.max[0]), Math.max(a.max[1], b.max[1]), Math.max(a.max[2], b.max[2])],
  };
}

/** Some direction square to `n`, chosen by a rule so that equal input gives equal output. */
export function squareTo(n: Vec3): Vec3 {
  const other: Vec3 = Math.abs(n[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return unit(cross(other, n));
}
