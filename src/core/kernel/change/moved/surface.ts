import type { Elementary } from "../../binary/surfaces";
import { add, cross, dot, length, scale, sub, unit, type Vec3 } from "../../space/vectors";

/**
 * How far a place is off an elementary surface, mm, and the way in which that grows fastest, a unit vector: away from its axis or middle; of a
 * plane the way of its first direction times its second. So it is the surface's own normal where its frame is right-handed.
 */
export function offSurface(surface: Elementary, place: Vec3): { off: number; way: Vec3 } {
  const from = sub(place, surface.at);
  if (surface.kind === "plane") {
    const way = unit(cross(surface.x, surface.y));
    return { off: dot(from, way), way };
  }
  if (surface.kind === "sphere") return { off: length(from) - surface.radius, way: unit(from) };
  const axis = unit(surface.axis);
  const up = dot(from, axis);
  const aside = sub(from, scale(axis, up));
  const out = length(aside);
  const away = unit(aside);
  switch (surface.kind) {
    case "cylinder":
      return { off: out - surface.radius, way: away };
    case "cone": {
      const [c, s] = [Math.cos(surface.half), Math.sin(surface.half)];
      return { off: (out - surface.radius) * c - up * s, way: add(scale(away, c), scale(axis, -s)) };
    }
    case "torus": {
      const [x, y] = [out - surface.major, up];
      const far = Math.hypot(x, y);
      return { off: far - surface.minor, way: add(scale(away, x / far), scale(axis, y / far)) };
    }
  }
}

/** Whether a surface's own normal is the way in which `offSurface` grows, 1, or the other, −1. */
export const handOf = (surface: Elementary): 1 | -1 =>
  surface.kind === "plane" || dot(cross(surface.x, surface.y), surface.axis) > 0 ? 1 : -1;

/** An elementary surface so far off, mm, to where `offSurface` grows; null where its radius is used up. */
export function movedSurface(surface: Elementary, by: number): Elementary | null {
  switch (surface.kind) {
    case "plane":
      return { ...surface, at: add(surface.at, scale(unit(cross(surface.x, surface.y)), by)) };
    case "cylinder":
    case "sphere": {
      const radius = surface.radius + by;
      return radius > LEAST ? { ...surface, radius } : null;
    }
    case "torus": {
      const minor = surface.minor + by;
      return minor > LEAST && minor < surface.major - LEAST ? { ...surface, minor } : null;
    }
    case "cone": {
      const radius = surface.radius + by / Math.cos(surface.half);
      if (radius > LEAST) return { ...surface, radius };
      // Its frame is moved along the axis instead: a cone begins at no radius below 0.
      const back = -by / Math.sin(surface.half);
      return { ...surface, at: add(surface.at, scale(unit(surface.axis), back)) };
    }
  }
}

/** mm: what is smaller is used up. */
const LEAST = 1e-6;
