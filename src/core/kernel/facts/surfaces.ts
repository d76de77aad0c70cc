import { SAME_PLACE } from "../../tolerance";
import type { FaceStructure, SurfaceRecord } from "../binary";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { cross, dot, scale, squareTo, sub, type Vec3 } from "../space/vectors";
import { curvingOf } from "./curving";
import type { FaceKind } from "./face-facts";

export interface Surface {
  kind: FaceKind;
  /** Text that is equal for two faces on the same plane, cylinder or sphere; null for other surfaces. */
  signature: string | null;
  /** The axis of a round surface, the normal of a flat one. */
  along?: Vec3;
}

const known = new WeakMap<Shape, Surface[]>();

/** The surfaces that a shape's faces lie on, in the order of its faces; kept with the handle, since it is asked often. */
export function surfacesOf(shape: Shape): Surface[] {
  let surfaces = known.get(shape);
  if (!surfaces) {
    surfaces = incidenceOf(shape).faces.map(surfaceOf);
    known.set(shape, surfaces);
  }
  return surfaces;
}

const noted = new WeakMap<Shape, SurfaceRecord>();

/** Notes what a face just made from a plane lies on, so that nobody has to ask the library for it. */
export function rememberFlat(face: Shape, origin: Vec3, normal: Vec3): void {
  known.set(face, [flat(origin, normal)]);
  const x = squareTo(normal);
  noted.set(face, { kind: "plane", at: origin, axis: normal, x, y: cross(normal, x) });
}

/** The surfaces with their numbers, in the order of the faces; how they are turned about their axes is left open. */
export function surfaceRecordsOf(shape: Shape): (SurfaceRecord | null)[] {
  const flatFace = noted.get(shape);
  return flatFace ? [flatFace] : incidenceOf(shape).faces.map(({ surface }) => surface);
}

const text = (values: readonly number[]) =>
  values.map((value) => (Math.round(value * 1e6) / 1e6 + 0).toFixed(6)).join(",");

/** One of two opposite directions, chosen by rule. */
const headed = (d: Vec3): Vec3 => {
  const lead = d.find((value) => Math.abs(value) > 1e-9) ?? 0;
  return lead < 0 ? [-d[0], -d[1], -d[2]] : d;
};

function flat(origin: Vec3, direction: Vec3): Surface {
  const normal = headed(direction);
  return { kind: "plane", along: normal, signature: `plane ${text([...normal, dot(normal, origin)])}` };
}

function surfaceOf({ surface }: FaceStructure): Surface {
  switch (surface?.kind) {
    case "plane":
      return flat(surface.at, surface.axis);
    case "cylinder": {
      const axis = headed(surface.axis);
      const foot = sub(surface.at, scale(axis, dot(axis, surface.at)));
      return { kind: "cylinder", along: axis, signature: `cylinder ${text([surface.radius, ...axis, ...foot])}` };
    }
    case "sphere":
      return { kind: "sphere", signature: `sphere ${text([surface.radius, ...surface.at])}` };
    default:
      return { kind: surface?.kind ?? "other", signature: null };
  }
}

/** The ball that a face lies on, by place, and whether the face looks away from its middle; null for any other face. */
export function ballOf(shape: Shape, place: number): { centre: Vec3; radius: number; outward: boolean } | null {
  const { surface } = incidenceOf(shape).faces[place]!;
  return surface?.kind === "sphere" ? { centre: surface.at, ...roundOf(shape, place)! } : null;
}

/**
 * How a bar, a ball or a ring rounds that a face lies on, by place: its radius (of a ring the tube's), and whether the face looks away from its
 * axis or middle, as a pin does, or towards it, as a hole; null for any other face.
 */
export function roundOf(shape: Shape, place: number): { radius: number; outward: boolean } | null {
  const { surface, forward } = incidenceOf(shape).faces[place]!;
  if (surface?.kind !== "cylinder" && surface?.kind !== "sphere" && surface?.kind !== "torus") return null;
  // In a left-handed frame the surface's own normal points the other way.
  const outward = forward === dot(cross(surface.x, surface.y), surface.axis) > 0;
  return { radius: surface.kind === "torus" ? surface.minor : surface.radius, outward };
}

/** The faces of a shape that have no closed form, by place. */
export const freeFacesOf = (shape: Shape): number[] =>
  incidenceOf(shape).faces.flatMap(({ surface }, place) => (surface && "axis" in surface ? [] : [place]));

/**
 * Whether a face, by place, rounds what it is of outwards, and by less than a wall, mm: behind it there is no room left that it would bound, and
 * the other walls meet. A free face does where it bends so all along its edges.
 */
export function isUsedUpBy(shape: Shape, place: number, wall: number): boolean {
  const round = roundOf(shape, place);
  const radius = round
    ? round.outward
      ? round.radius
      : Number.POSITIVE_INFINITY
    : curvingOf(shape, place)?.outwards.most;
  return (radius ?? Number.POSITIVE_INFINITY) < wall + SAME_PLACE;
}

/** How tightly a face, by place, bends away from what it is of or towards it: the least radius of it, mm; Infinity where it does not, as far as is known. */
export function leastRadius(shape: Shape, place: number, way: "outwards" | "inwards"): number {
  const round = roundOf(shape, place);
  if (round) return round.outward === (way === "outwards") ? round.radius : Number.POSITIVE_INFINITY;
  return curvingOf(shape, place)?.[way].least ?? Number.POSITIVE_INFINITY;
}
