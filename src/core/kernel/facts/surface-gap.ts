import type { SurfaceRecord } from "../binary";
import type { Shape } from "../library/topology";
import { cross, dot, length, sub, type Vec3 } from "../space/vectors";
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
      return Math.abs(Math.hypot(out - surface.major, height) - surface.minor);
    case "cone": {
      // Its outline on both sides of the axis: two lines, of which the nearer counts.
      const [cos, sin] = [Math.cos(surface.half), Math.sin(surface.half)];
      return Math.min(...[out, -out].map((x) => Math.abs((x - surface.radius) * cos - height * sin)));
    }
    default:
      return 0;
  }
}
