import type { Elementary } from "../../binary/surfaces";
import type { CircleCurve, LineCurve, WrittenCurve } from "../../binary/write";
import { cross, dot, length, sub, unit, type Vec3 } from "../../space/vectors";
import { inPlane } from "../in-plane";
import type { Drawn } from "./curve";

/** Sine of an angle: ways that are nearer are one. */
const SAME_WAY = 1e-9;

/**
 * A line or a circle in the parameters of an elementary surface that it lies on, where its image there is a line or a circle. Null where it is another, as of
 * a circle aslant on a ball.
 * @param old the image before, by where it begins: a surface that goes round has one at each turn.
 */
export function imageOn(surface: Elementary, { curve, from }: Drawn, old: readonly number[]): WrittenCurve | null {
  if (surface.kind === "plane") return inPlane(surface, curve);
  if (curve.kind === "ellipse") return null;
  const at = placeOf(surface, pointAt(curve, from), old);
  if (curve.kind === "line") {
    // Of the surfaces that are not flat, lines lie on cylinders and cones alone: along their sides.
    const rises = Math.sign(dot(curve.way as unknown as Vec3, surface.axis));
    return through(at, [0, rises], from);
  }
  const [x, y] = [curve.x, curve.y] as unknown as [Vec3, Vec3];
  const axis = cross(x, y);
  const turn = Math.sign(dot(axis, surface.axis)) * handed(surface);
  if (length(cross(unit(axis), unit(surface.axis))) < SAME_WAY) return through(at, [turn, 0], from);
  // Across: it runs in a half plane, up or down.
  const { slope } = aheadOf(curve, from);
  const { up } = framesAt(surface, at);
  if (Math.abs(dot(unit(axis), surface.axis)) > SAME_WAY) return null;
  const rises = Math.sign(dot(slope, up));
  return surface.kind === "sphere" || surface.kind === "torus" ? through(at, [0, rises], from) : null;
}

/** A line in parameters that is at a place where the edge begins. */
const through = (at: readonly [number, number], way: readonly [number, number], from: number): LineCurve => ({
  kind: "line",
  at: [at[0] - from * way[0], at[1] - from * way[1]],
  way,
});

const handed = ({ x, y, axis }: Elementary): number => Math.sign(dot(cross(x, y), axis));

/** A place of a curve in space. */
export function pointAt(curve: WrittenCurve, t: number): Vec3 {
  const at = curve.at as unknown as Vec3;
  if (curve.kind === "line") return [0, 1, 2].map((i) => at[i]! + t * curve.way[i]!) as unknown as Vec3;
  const [major, minor] = curve.kind === "circle" ? [curve.radius, curve.radius] : [curve.major, curve.minor];
  const [c, s] = [major * Math.cos(t), minor * Math.sin(t)];
  return [0, 1, 2].map((i) => at[i]! + c * curve.x[i]! + s * curve.y[i]!) as unknown as Vec3;
}

function aheadOf(curve: CircleCurve, t: number): { slope: Vec3 } {
  const [c, s] = [Math.cos(t), Math.sin(t)];
  return { slope: [0, 1, 2].map((i) => c * curve.y[i]! - s * curve.x[i]!) as unknown as Vec3 };
}

/** The way in which v grows on a ball or a ring. */
function framesAt(surface: Elementary, [u, v]: readonly [number, number]): { up: Vec3 } {
  const [c, s] = [Math.cos(u), Math.sin(u)];
  const [cv, sv] = [Math.cos(v), Math.sin(v)];
  return {
    up: [0, 1, 2].map((i) => cv * surface.axis[i]! - sv * (c * surface.x[i]! + s * surface.y[i]!)) as unknown as Vec3,
  };
}

/** The parameters of a place on a surface that is turned about an axis, nearest to others. Where u says nothing, at a pole, it is as it was. */
export function placeOf(
  surface: Exclude<Elementary, { kind: "plane" }>,
  place: Vec3,
  near: readonly number[],
): [number, number] {
  const from = sub(place, surface.at);
  const [x, y, up] = [dot(from, surface.x), dot(from, surface.y), dot(from, surface.axis)];
  const out = Math.hypot(x, y);
  const u = out < POLE ? near[0]! : nearTo(Math.atan2(y, x), near[0]!);
  switch (surface.kind) {
    case "cylinder":
      return [u, up];
    case "cone":
      return [u, up / Math.cos(surface.half)];
    case "sphere":
      return [u, nearTo(Math.atan2(up, out), near[1]!)];
    case "torus":
      return [u, nearTo(Math.atan2(up, out - surface.major), near[1]!)];
  }
}

/** mm */
const POLE = 1e-7;

/** An angle, as many turns on as it takes to be nearest to another; a hair beside it, it is that. */
function nearTo(angle: number, other: number): number {
  const now = angle + 2 * Math.PI * Math.round((other - angle) / (2 * Math.PI));
  return Math.abs(now - other) < 1e-11 ? other : now;
}
