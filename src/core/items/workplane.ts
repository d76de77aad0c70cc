import { mirroredPoint, placedPoint, turned, type Vec3 } from "../kernel";
import { type Handling, type Known, PLAIN, type Told } from "./handling";

/** An endless plane with a side: + is where the normal points. */
export interface Workplane extends Known {
  kind: "workplane";
  origin: Vec3;
  normal: Vec3;
}

export interface PlaneView extends Told {
  kind: "workplane";
  origin: Vec3;
  normal: Vec3;
}

export const workplaneHandling: Handling<Workplane, PlaneView> = {
  ...PLAIN,
  restore: (stored) => ({ item: stored as Workplane }),
  placed: (plane, placement) => ({
    ...plane,
    origin: placedPoint(plane.origin, placement),
    normal: turned(plane.normal, placement.axis, placement.angle),
  }),
  mirrored: (plane, across) => ({
    ...plane,
    origin: mirroredPoint(plane.origin, [0, 0, 0], across),
    normal: mirroredPoint(plane.normal, [0, 0, 0], across),
  }),
  view: ({ kind, origin, normal }, { told }) => ({ ...told, kind, origin, normal }),
};
