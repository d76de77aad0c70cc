import type { Curve, EdgeStructure } from "../../binary";
import type { WrittenCurve } from "../../binary/write";
import { add, cross, distance, dot, length, scale, sub, unit, type Vec3 } from "../../space/vectors";
import type { FaceMove } from "./faces";

/** A curve in space with the parameters between which an edge runs along it. */
export interface Drawn {
  curve: WrittenCurve;
  from: number;
  to: number;
}

/** mm: an edge that is shorter is used up. */
const SHORT = 1e-6;

/**
 * A straight or round edge between its corners, moved: a line between them; a circle about the line that it went round, so wide that it goes through
 * them; or an ellipse about the axis of a round face that it lies on, as much larger as that is wider. Its parameters go on from where they began. Null
 * where it is none of these, is used up, or would run the other way.
 */
export function movedCurve(
  { curve: before, faces }: EdgeStructure,
  moves: readonly (FaceMove | null)[],
  begins: Vec3,
  ends: Vec3,
): Drawn | null {
  const { curve, from, to } = before!;
  if (curve.kind === "line") return line(curve, from, begins, ends);
  if (curve.kind !== "circle" && curve.kind !== "ellipse") return null;
  const [middle, x, y] = [curve.at, curve.x, curve.y].map((v) => v as unknown as Vec3) as [Vec3, Vec3, Vec3];
  const normal = unit(cross(x, y));
  const rise = dot(sub(begins, middle), normal);
  if (curve.kind === "circle") {
    const at = add(middle, scale(normal, rise));
    const radius = distance(begins, at);
    return arc({ kind: "circle", at, x, y, radius }, [from, to], begins, ends);
  }
  // An ellipse is how a plane cuts a cylinder aslant, or two cylinders of one radius each other.
  const cylinder = faces.flatMap((face) => moves[face] ?? []).find((move) => move.before.kind === "cylinder");
  if (cylinder?.before.kind !== "cylinder" || cylinder.after.kind !== "cylinder") return null;
  const axis = unit(cylinder.before.axis);
  const larger = cylinder.after.radius / cylinder.before.radius;
  const at = add(middle, scale(axis, rise / dot(axis, normal)));
  const [major, minor] = [larger * curve.major, larger * curve.minor];
  return arc({ kind: "ellipse", at, x, y, major, minor }, [from, to], begins, ends);
}

function line(curve: Extract<Curve, { kind: "line" }>, from: number, begins: Vec3, ends: Vec3): Drawn | null {
  const on = sub(ends, begins);
  const long = length(on);
  if (long < SHORT || dot(on, curve.way as unknown as Vec3) <= 0) return null;
  const way = scale(on, 1 / long);
  return { curve: { kind: "line", at: sub(begins, scale(way, from)), way }, from, to: from + long };
}

/** The part of a circle or an ellipse between two places of it. */
function arc(
  curve: Exclude<WrittenCurve, { kind: "line" }>,
  [from, to]: readonly [number, number],
  begins: Vec3,
  ends: Vec3,
): Drawn | null {
  const [major, minor] = curve.kind === "circle" ? [curve.radius, curve.radius] : [curve.major, curve.minor];
  if (!(Math.min(major, minor) > SHORT)) return null;
  const [at, x, y] = [curve.at, curve.x, curve.y] as unknown as [Vec3, Vec3, Vec3];
  const angle = (place: Vec3, near: number) => {
    const out = sub(place, at);
    const found = Math.atan2(dot(out, y) / minor, dot(out, x) / major);
    const turned = found + 2 * Math.PI * Math.round((near - found) / (2 * Math.PI));
    return Math.abs(turned - near) < ROUNDING ? near : turned;
  };
  const [first, last] = [angle(begins, from), angle(ends, to)];
  // Where both corners are one it goes all round: its ends are a turn apart.
  if ((last - first) * minor < SHORT || last - first > 2 * Math.PI + ROUNDING) return null;
  return { curve, from: first, to: last };
}

/** Radians: an angle that changed by less is what it was. */
const ROUNDING = 1e-11;
