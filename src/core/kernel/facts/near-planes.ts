import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { dot, sub, type Vec3 } from "../space/vectors";
import { flatOf } from "./planes";

/** mm: what lies nearer to a plane than this lies in it. */
const IN_IT = 1e-6;

/** Whether a corner of a shape lies off a plane, and by no more than `reach`, mm. @param normal of length 1. */
export function nearlyInPlane(shape: Shape, { at, normal }: { at: Vec3; normal: Vec3 }, reach: number): boolean {
  return incidenceOf(shape).vertices.some((corner) => {
    const height = Math.abs(dot(sub(corner.at, at), normal));
    return height > IN_IT && height <= reach;
  });
}

/** Whether a corner of one shape lies nearly in a flat face's plane of the other. */
export function nearlyMeetFlat(one: Shape, other: Shape, reach: number): boolean {
  const flats = (shape: Shape) => incidenceOf(shape).faces.flatMap((face) => flatOf(face) ?? []);
  const near = (a: Shape, b: Shape) =>
    flats(a).some(({ origin, normal }) => nearlyInPlane(b, { at: origin, normal }, reach));
  return near(one, other) || near(other, one);
}
