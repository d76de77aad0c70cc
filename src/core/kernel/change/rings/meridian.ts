import type { SurfaceRecord } from "../../binary";
import { add, cross, distance, dot, length, scale, sub, unit, type Vec3 } from "../../space/vectors";

/** A line about which things are turned; `way` is a unit vector. */
export interface Axis {
  at: Vec3;
  way: Vec3;
}

/** A place in the half plane that ends at an axis: how far out from it, and how far up along it, mm. */
export type Meridian = readonly [out: number, up: number];

/** What a surface that is turned about an axis is in that half plane; a line's places have `normal` · place = `offset`. */
export type Outline =
  | { kind: "line"; normal: Meridian; offset: number }
  | { kind: "circle"; centre: Meridian; radius: number };

/** mm: axes that are nearer are one. */
const SAME_AXIS = 1e-8;
/** Sine of an angle: ways that are nearer are one. */
const SAME_WAY = 1e-11;

export function onMeridian({ at, way }: Axis, place: Vec3): Meridian {
  const from = sub(place, at);
  const up = dot(from, way);
  return [length(sub(from, scale(way, up))), up];
}

/** The unit vector from an axis to a place. */
export function outwardsAt({ at, way }: Axis, place: Vec3): Vec3 {
  const from = sub(place, at);
  return unit(sub(from, scale(way, dot(from, way))));
}

export const inSpace = ({ at, way }: Axis, outwards: Vec3, [out, up]: Meridian): Vec3 =>
  add(add(at, scale(way, up)), scale(outwards, out));

/** The line about which surfaces are all turned; null where they have none, or it is not told by them. */
export function axisOf(surfaces: readonly SurfaceRecord[]): Axis | null {
  for (const surface of surfaces)
    if (surface.kind === "cylinder" || surface.kind === "cone" || surface.kind === "torus")
      return { at: surface.at, way: unit(surface.axis) };
  const [ball, other] = surfaces.flatMap((surface) => (surface.kind === "sphere" ? [surface] : []));
  if (!ball) return null;
  const plane = surfaces.find((surface) => surface.kind === "plane");
  if (plane?.kind === "plane") return { at: ball.at, way: unit(plane.axis) };
  return other && distance(ball.at, other.at) > SAME_AXIS ? { at: ball.at, way: unit(sub(other.at, ball.at)) } : null;
}

/** What a surface is in an axis' half plane; null where it is not turned about that axis. */
export function outlineAbout(axis: Axis, surface: SurfaceRecord): Outline | null {
  if (!("axis" in surface)) return null;
  const [off, up] = onMeridian(axis, surface.at);
  const along = dot(unit(surface.axis), axis.way) > 0 ? 1 : -1;
  const parallel = length(cross(unit(surface.axis), axis.way)) < SAME_WAY;
  if (surface.kind === "plane") return parallel ? { kind: "line", normal: [0, 1], offset: up } : null;
  if (off > SAME_AXIS) return null;
  if (surface.kind === "sphere") return { kind: "circle", centre: [0, up], radius: surface.radius };
  if (!parallel) return null;
  switch (surface.kind) {
    case "cylinder":
      return { kind: "line", normal: [1, 0], offset: surface.radius };
    case "cone": {
      const normal: Meridian = [along * Math.cos(surface.half), -Math.sin(surface.half)];
      return { kind: "line", normal, offset: normal[0] * surface.radius + normal[1] * up };
    }
    case "torus":
      return { kind: "circle", centre: [surface.major, up], radius: surface.minor };
  }
}

/** Whether a surface is a plane that holds an axis. */
export const isThrough = ({ at, way }: Axis, surface: SurfaceRecord): boolean =>
  surface.kind === "plane" &&
  Math.abs(dot(surface.axis, way)) < SAME_WAY &&
  Math.abs(dot(surface.axis, sub(at, surface.at))) < SAME_AXIS;

/** How far a place is off an outline, with a sign, and the way in which that grows. */
export function offOutline(outline: Outline, place: Meridian): { off: number; way: Meridian } {
  if (outline.kind === "line") {
    const { normal, offset } = outline;
    return { off: normal[0] * place[0] + normal[1] * place[1] - offset, way: normal };
  }
  const [x, y] = [place[0] - outline.centre[0], place[1] - outline.centre[1]];
  const far = Math.hypot(x, y);
  return { off: far - outline.radius, way: [x / far, y / far] };
}

/** The place of an outline that is nearest to another one. */
export function footOn(outline: Outline, place: Meridian): Meridian {
  const { off, way } = offOutline(outline, place);
  return [place[0] - off * way[0], place[1] - off * way[1]];
}

/** How far the places sought may still move, of their size. */
const SETTLED = 1e-15;
const ROUNDS = 30;

/**
 * Where two outlines are so far off as asked for, with signs, near to a place: Newton's way. Null where it finds none, as where
 * the outlines run alike.
 */
export function placeOff(
  outlines: readonly [Outline, Outline],
  wanted: readonly [number, number],
  near: Meridian,
): Meridian | null {
  let place = near;
  for (let round = 0; round < ROUNDS; round++) {
    const [a, b] = [offOutline(outlines[0], place), offOutline(outlines[1], place)];
    const [da, db] = [a.off - wanted[0], b.off - wanted[1]];
    const area = a.way[0] * b.way[1] - a.way[1] * b.way[0];
    if (Math.abs(area) < 1e-6) return null;
    const step: Meridian = [(da * b.way[1] - db * a.way[1]) / area, (a.way[0] * db - b.way[0] * da) / area];
    place = [place[0] - step[0], place[1] - step[1]];
    if (Math.hypot(...step) <= SETTLED * (1 + Math.hypot(...place))) break;
  }
  return Math.hypot(place[0] - near[0], place[1] - near[1]) < NEAR ? place : null;
}

/** mm: what is sought lies as near to where it is looked for. */
const NEAR = 0.01;

/** The middle of the circle through three places; null where they lie on a line. */
export function middleOfCircle([a, b, c]: readonly [Meridian, Meridian, Meridian]): Meridian | null {
  const [bx, by, cx, cy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const area = 2 * (bx * cy - by * cx);
  if (Math.abs(area) < 1e-12) return null;
  const [bb, cc] = [bx * bx + by * by, cx * cx + cy * cy];
  return [a[0] + (cy * bb - by * cc) / area, a[1] + (bx * cc - cx * bb) / area];
}
