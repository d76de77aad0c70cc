import { perShape } from "../library/identity";
import { incidenceOf } from "../library/incidence";
import { facesOf, type Shape } from "../library/topology";
import { boxesMeet, dot, sub, type Vec3 } from "../space/vectors";
import { looseBoxOf } from "./box";
import { nearest } from "./distance";
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
  const near = (a: Shape, b: Shape) =>
    flatsOf(a).some(({ origin, normal }) => nearlyInPlane(b, { at: origin, normal }, reach));
  return near(one, other) || near(other, one);
}

const flatsOf = perShape((shape) =>
  incidenceOf(shape).faces.flatMap((face, place) => {
    const flat = flatOf(face);
    return flat ? [{ ...flat, place }] : [];
  }),
);

/** As a cosine: planes that lean by more are not nearly one. */
const ALIKE = 1 - 1e-12;

/** Two flat faces that lie nearly in one plane, and near to each other there. */
export interface NearFlats {
  at: Vec3;
  /** The outward normal of the first. */
  normal: Vec3;
  /** How far the second has to go along it for the two to be in one plane, mm; less than 0 for the other way. */
  off: number;
  /** How far the first lies along its normal from the origin, mm. */
  height: number;
  /** Whether both look the same way; else the material of one lies before the other. */
  alike: boolean;
}

/**
 * The flat faces of two bodies that lie nearly in one plane; of a body and itself, the pairs of its own, each once.
 * @param reach mm: the most that they may be off.
 */
export function nearFlats(one: Shape, other: Shape, reach: number): NearFlats[] {
  const found: NearFlats[] = [];
  for (const a of flatsOf(one))
    for (const b of flatsOf(other)) {
      if (one === other && b.place <= a.place) continue;
      const off = dot(sub(a.origin, b.origin), a.normal);
      const cosine = dot(a.normal, b.normal);
      if (Math.abs(off) <= IN_IT || Math.abs(off) > reach || Math.abs(cosine) < ALIKE) continue;
      const [face, facing] = [facesOf(one)[a.place]!, facesOf(other)[b.place]!];
      if (!meet(face, facing, reach)) continue;
      const near = nearest(face, facing);
      if (near && near.gap <= 2 * reach)
        found.push({ at: near.on2, normal: a.normal, off, height: dot(a.origin, a.normal), alike: cosine > 0 });
    }
  return found;
}

/** Whether the boxes of two faces come near to each other. */
function meet(one: Shape, other: Shape, reach: number): boolean {
  const [a, b] = [looseBoxOf(one), looseBoxOf(other)];
  return !a || !b || boxesMeet(a, b, reach);
}
