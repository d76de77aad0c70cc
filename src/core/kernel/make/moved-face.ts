import type { SurfaceRecord } from "../binary";
import { looksAway } from "../facts/surface-gap";
import { surfaceRecordsOf } from "../facts/surfaces";
import { KernelFault } from "../library/faults";
import { scoped } from "../library/scope";
import { freeShape, type Shape, shellOf, subshapes } from "../library/topology";
import { add, type Box, corners, cross, diagonal, dot, scale, sub, unionBox, type Vec3 } from "../space/vectors";
import { naturalSheet } from "./natural-sheet";
import { makeCylinder, makeSphere, makeTorus } from "./primitives";
import { type MadeSheet, offsetSheet } from "./sheet";
import { placed } from "./transform";
import { wholeFace } from "./whole-face";

/** mm: a radius of less is none. */
const NO_RADIUS = 1e-6;

/**
 * A face moved along its normal and run on along its own surface until it reaches through a box (`wholeFace`): a ball, bar or ring is
 * one of another size, a plane or cone the same one elsewhere. It looks where the face looks, and belongs to the caller.
 * @param by mm, the way the face looks; 0 leaves it where it is.
 * @returns null where there is no such face: a free surface that ends with the face, or a radius that is used up.
 */
export function movedFace(body: Shape, place: number, by: number, room: Box): Shape | null {
  if (by === 0) return wholeFace(body, place, room);
  const surface = surfaceRecordsOf(body)[place];
  if (!surface || !("axis" in surface)) return movedFree(body, place, by, room);
  const out = looksAway(body, place) ? 1 : -1;
  switch (surface.kind) {
    case "plane":
      return shifted(body, place, scale(normalOf(surface), out * by), room);
    case "cone":
      // Moved by `by` across its side it is as wide there as it was so far along its axis.
      return shifted(body, place, scale(surface.axis, (-out * by) / Math.sin(surface.half)), room);
    case "cylinder":
      return resized(surface.radius + out * by, out, (radius) => {
        const heights = corners(room).map((corner) => dot(sub(corner, surface.at), surface.axis));
        const [low, high] = [Math.min(...heights) - 1, Math.max(...heights) + 1];
        return makeCylinder(add(surface.at, scale(surface.axis, low)), surface.axis, radius, high - low);
      });
    case "sphere":
      return resized(surface.radius + out * by, out, (radius) => makeSphere(surface.at, radius));
    case "torus":
      if (surface.minor + out * by >= surface.major) return null;
      return resized(surface.minor + out * by, out, (minor) =>
        makeTorus(surface.at, surface.axis, surface.major, minor),
      );
  }
}

/** A plane's own normal, whichever way its face looks. */
const normalOf = ({ x, y }: Extract<SurfaceRecord, { kind: "plane" }>): Vec3 => cross(x, y);

/** A face run on, as it stands elsewhere. */
function shifted(body: Shape, place: number, way: Vec3, { min, max }: Box): Shape | null {
  const there = unionBox({ min, max }, { min: sub(min, way), max: sub(max, way) });
  const whole = wholeFace(body, place, there);
  if (!whole) return null;
  try {
    return placed(whole, { about: [0, 0, 0], axis: [0, 0, 1], angle: 0, by: way });
  } finally {
    freeShape(whole);
  }
}

/** The round face of a solid of another size, looking out or in; null where the radius is used up. */
function resized(radius: number, out: 1 | -1, make: (radius: number) => Shape): Shape | null {
  if (radius < NO_RADIUS) return null;
  const solid = make(radius);
  try {
    return scoped((scope) => {
      const round = surfaceRecordsOf(solid).findIndex((surface) => surface?.kind !== "plane");
      const face = subshapes(scope, solid, "face")[round]!;
      return shellOf([out > 0 ? face : scope.use(face.Reversed())]);
    });
  } finally {
    freeShape(solid);
  }
}

/** A free face, as large as its own surface goes; null where that ends with it, or turns inside out. */
function movedFree(body: Shape, place: number, by: number, room: Box): Shape | null {
  const whole: MadeSheet | null = naturalSheet(body, place, diagonal(room) + 1);
  if (!whole) return null;
  try {
    return offsetSheet(whole, by).shape;
  } catch (cause) {
    if (cause instanceof KernelFault && !cause.fatal) return null;
    throw cause;
  } finally {
    freeShape(whole.shape);
  }
}
