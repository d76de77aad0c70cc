import type { SurfaceRecord } from "../binary";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { add, cross, dot, length, scale, sub, type Vec3 } from "../space/vectors";
import { surfaceRecordsOf } from "./surfaces";

/**
 * How far a place is at least from faces (by place), mm: as far as from the surfaces that they lie on, which run on past them.
 * 0 where a surface has no closed form. It is quick, where asking for the distance to the faces themselves is not.
 */
export function leastGap(shape: Shape, places: readonly number[], at: Vec3): number {
  const records = surfaceRecordsOf(shape);
  return places.reduce(
    (least, place) => Math.min(least, surfaceGap(records[place] ?? null, at)),
    Number.POSITIVE_INFINITY,
  );
}

/**
 * How far a place lies before a face's surface, the way the face looks, mm; below 0 behind it. The surface runs on past the face. Null where
 * it has no closed form.
 */
export function aheadOf(shape: Shape, place: number, at: Vec3): number | null {
  const surface = surfaceRecordsOf(shape)[place];
  if (!surface || !("axis" in surface)) return null;
  const out = looksAway(shape, place) ? 1 : -1;
  const away = sub(at, surface.at);
  const height = dot(away, surface.axis);
  const wide = length(cross(away, surface.axis));
  switch (surface.kind) {
    case "plane":
      return out * dot(away, cross(surface.x, surface.y));
    case "sphere":
      return out * (length(away) - surface.radius);
    case "cylinder":
      return out * (wide - surface.radius);
    case "torus":
      return out * (Math.hypot(wide - surface.major, height) - surface.minor);
    case "cone":
      return out * ((wide - surface.radius) * Math.cos(surface.half) - height * Math.sin(surface.half));
    default:
      return null;
  }
}

/** Whether a face looks away from its surface's axis or middle; a flat one, the way in which its surface's own directions turn. */
export function looksAway(shape: Shape, place: number): boolean {
  const { surface, forward } = incidenceOf(shape).faces[place]!;
  if (!surface || !("axis" in surface)) return true;
  return surface.kind === "plane" ? forward : forward === dot(cross(surface.x, surface.y), surface.axis) > 0;
}

function surfaceGap(surface: SurfaceRecord | null, at: Vec3): number {
  if (!surface || !("axis" in surface)) return 0;
  const away = sub(at, surface.at);
  const height = dot(away, surface.axis);
  const out = length(cross(away, surface.axis));
  switch (surface.kind) {
    case "plane":
      return Math.abs(height);
    case "sphere":
      return Math.abs(length(away) - surface.radius);
    case "cylinder":
      return Math.abs(out - surface.radius);
    case "torus":
      return Math.min(...[out, -out].map((x) => Math.abs(Math.hypot(x - surface.major, height) - surface.minor)));
    case "cone": {
      // Its outline on both sides of the axis: two lines, of which the nearer counts.
      const [cos, sin] = [Math.cos(surface.half), Math.sin(surface.half)];
      return Math.min(...[out, -out].map((x) => Math.abs((x - surface.radius) * cos - height * sin)));
    }
    default:
      return 0;
  }
}

/**
 * The place on a face's surface that is nearest to one beside it; the surface runs on past the face. Null where the surface has
 * no closed form, and where many places are as near: on an axis, amid a ball.
 */
export function footOn(shape: Shape, place: number, at: Vec3): Vec3 | null {
  const surface = surfaceRecordsOf(shape)[place];
  if (!surface || !("axis" in surface)) return null;
  const { axis } = surface;
  const away = sub(at, surface.at);
  const height = dot(away, axis);
  const aside = sub(away, scale(axis, height));
  const out = length(aside);
  /** The place so far out of the axis, on the side on which `at` lies, and so high along it. */
  const standing = (far: number, high: number) =>
    out > 0 ? add(surface.at, add(scale(aside, far / out), scale(axis, high))) : null;
  switch (surface.kind) {
    case "plane":
      return sub(at, scale(axis, height));
    case "sphere": {
      const far = length(away);
      return far > 0 ? add(surface.at, scale(away, surface.radius / far)) : null;
    }
    case "cylinder":
      return standing(surface.radius, height);
    case "torus": {
      const [over, far] = [out - surface.major, Math.hypot(out - surface.major, height)];
      return far > 0 ? standing(surface.major + (over * surface.minor) / far, (height * surface.minor) / far) : null;
    }
    case "cone": {
      // The nearer of the two lines of its outline; where it is the other side's, the place lies across the axis.
      const [cos, sin] = [Math.cos(surface.half), Math.sin(surface.half)];
      const off = (x: number) => (x - surface.radius) * cos - height * sin;
      const side = Math.abs(off(out)) <= Math.abs(off(-out)) ? 1 : -1;
      const by = off(side * out);
      return standing(side * (side * out - by * cos), height + by * sin);
    }
    default:
      return null;
  }
}
