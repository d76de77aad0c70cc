import { add, cross, dot, length, type SurfaceRecord, scale, sub, unit, type Vec3 } from "../kernel";
import type { Move } from "./moves";

/** A plane through a point, square to a normal. */
export interface Parting {
  at: Vec3;
  normal: Vec3;
}

/** How fast a place is moved by a move, and which way: mm for the whole of it, or mm for each radian. */
export function speedAt(move: Move, at: Vec3): Vec3 {
  if (move.kind === "straight") return move.by;
  return scale(cross(move.axis, sub(at, move.at)), Math.sign(move.angle));
}

/** Directions that are less apart than this are one: sine of the angle between them. */
const ALONG = 1e-9;

/**
 * The planes by which a surface is parted into where it leads – moves to where its front looks – and where it does not: between them it moves along
 * itself. None where all of it does one or the other, or moves in itself throughout. Null where that is no matter of planes, as on a ring that
 * moves sideways or a free surface.
 *
 * On a round surface the normal at a place is known by its direction e round the axis (cylinder, cone) or from the middle (ball); where the normal
 * times the speed is nothing follows by writing the speed out for each kind.
 */
export function leadingPartings(surface: SurfaceRecord | null, move: Move): readonly Parting[] | null {
  if (!surface) return null;
  return move.kind === "straight" ? straight(surface, move.by) : turning(surface, move);
}

function straight(surface: SurfaceRecord, by: Vec3): readonly Parting[] | null {
  switch (surface.kind) {
    case "plane":
      return [];
    case "sphere":
      return [{ at: surface.at, normal: unit(by) }];
    case "cylinder": {
      const across = sub(by, scale(surface.axis, dot(by, surface.axis)));
      return length(across) <= ALONG * length(by) ? [] : [{ at: surface.at, normal: unit(across) }];
    }
    case "cone": {
      const { axis, half } = surface;
      const across = sub(by, scale(axis, dot(by, axis)));
      if (length(across) <= ALONG * length(by)) return [];
      // e · by = tan(half) · (axis · by): two lines through the tip, and the plane through both.
      const k = (Math.tan(half) * dot(by, axis)) / length(across);
      if (Math.abs(k) >= 1) return [];
      const tip = add(surface.at, scale(axis, -surface.radius / Math.tan(half)));
      const normal = sub(scale(unit(across), Math.cos(half)), scale(axis, Math.sin(half) * k));
      return [{ at: tip, normal: unit(normal) }];
    }
    default:
      return null;
  }
}

function turning(
  surface: SurfaceRecord,
  { at, axis: about }: Extract<Move, { kind: "turn" }>,
): readonly Parting[] | null {
  switch (surface.kind) {
    case "plane": {
      const normal = cross(surface.axis, about);
      return length(normal) <= ALONG ? [] : [{ at, normal: unit(normal) }];
    }
    case "sphere": {
      const off = offAxis(surface.at, at, about);
      return length(off) <= NEAR ? [] : [{ at, normal: unit(cross(about, off)) }];
    }
    case "cylinder":
    case "cone": {
      if (length(cross(surface.axis, about)) <= ALONG) {
        const off = offAxis(surface.at, at, about);
        return length(off) <= NEAR ? [] : [{ at: surface.at, normal: unit(cross(about, off)) }];
      }
      return null;
    }
    case "torus":
      return length(cross(surface.axis, about)) <= ALONG && length(offAxis(surface.at, at, about)) <= NEAR ? [] : null;
    case "revolution":
      return length(cross(unit(surface.axisWay), about)) <= ALONG && length(offAxis(surface.axisAt, at, about)) <= NEAR
        ? []
        : null;
    default:
      return null;
  }
}

/** mm: nearer to an axis than this is on it. */
const NEAR = 1e-9;

/** From an axis to a point, square to the axis. */
const offAxis = (point: Vec3, at: Vec3, axis: Vec3): Vec3 => {
  const away = sub(point, at);
  return sub(away, scale(axis, dot(away, axis)));
};
