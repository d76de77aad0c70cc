import { add, cross, dot, length, scale, sub, turned, unit, type Vec3 } from "../kernel/space/vectors";
import { SAME_WAY } from "../tolerance";

/** A face that something is put by: a flat one, or a round one by its axis. */
export interface PutFace {
  kind: string;
  centre: Vec3;
  /** A plane's normal, out of the material; a cylinder's axis. */
  direction?: Vec3;
  /** A point on a cylinder's axis. */
  axisAt?: Vec3;
}

export interface PutHow {
  /** Flat faces look at each other, or the same way; axes the nearer of their two ways, or the other. */
  how: "facing" | "flush";
  /** Between flat faces, mm: along the way that the still one looks. */
  gap: number;
  /** Radians: about the still one's direction, at the end. */
  spin: number;
  /** Middle on middle; else flat faces only come into one plane, and axes into one line. */
  middle: boolean;
}

/** A turn about a point and an axis, radians; then a move. */
export interface Turn {
  about: Vec3;
  axis: Vec3;
  angle: number;
  by: Vec3;
}

/** Whether something can be put by two faces: both flat, or both cylindrical. */
export const canPut = (one: PutFace, other: PutFace): boolean =>
  one.kind === other.kind && ["plane", "cylinder"].includes(one.kind) && !!one.direction && !!other.direction;

/** How something moves when a face of it is put onto another: first the turn that makes the two parallel, then the spin and the shift. */
export function putTurns(from: PutFace, to: PutFace, { how, gap, spin, middle }: PutHow): [Turn, Turn] {
  const flat = from.kind === "plane";
  const [one, other] = [from.direction!, to.direction!];
  // Axes have no front: the nearer of their two ways is taken, or with “flush” the other.
  const nearer = flat ? -1 : Math.sign(dot(one, other)) || 1;
  const wanted = scale(other, (how === "facing" ? 1 : -1) * nearer);
  const at = flat ? from.centre : (from.axisAt ?? from.centre);
  const goal = flat ? to.centre : (to.axisAt ?? to.centre);
  const turn = turnTo(one, wanted, at);
  const away = sub(goal, at);
  const along = scale(other, dot(away, other));
  // The turn may have moved the middle of a cylinder along: it lies on the axis, where the turn is about.
  const shift = middle ? sub(to.centre, afterTurn(from.centre, turn)) : flat ? along : sub(away, along);
  return [turn, { about: at, axis: other, angle: spin, by: add(shift, scale(other, flat ? gap : 0)) }];
}

const afterTurn = (point: Vec3, { about, axis, angle }: Turn): Vec3 =>
  add(turned(sub(point, about), axis, angle), about);

/** The least turn about a point that takes one unit vector to another. */
function turnTo(from: Vec3, to: Vec3, about: Vec3): Turn {
  const axis = cross(from, to);
  const angle = Math.atan2(length(axis), dot(from, to));
  if (length(axis) > SAME_WAY) return { about, axis: unit(axis), angle, by: [0, 0, 0] };
  const any: Vec3 = Math.abs(from[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return { about, axis: unit(cross(from, any)), angle: dot(from, to) > 0 ? 0 : Math.PI, by: [0, 0, 0] };
}
