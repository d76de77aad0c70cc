import { identityOf } from "../library/identity";
import { type Shape, shapeKind } from "../library/topology";
import { triangulate } from "../mesh/tessellate";
import { volumeUnder } from "../mesh/volume-under";
import { diagonal } from "../space/vectors";
import { looseBoxOf } from "./box";
import { formVolume, volumeOf } from "./mass";

/** What the fixed integration is good for, relative, where triangles agree with it better. */
const FIXED = 1e-3;
/** Of a body's size, and radians. */
const FINE = { linear: 1 / 1000, angular: 0.15 };

const known = new WeakMap<object, number>();

/**
 * How far the volume of a solid may be off what it is, mm³: 0 where every face is had exactly, else what the volume between fine
 * triangles differs by from that of the fixed integration, and no less than a thousandth.
 */
export function volumeWithin(shape: Shape): number {
  if (shapeKind(shape) !== "solid" || formVolume(shape) !== null) return 0;
  let within = known.get(identityOf(shape));
  if (within === undefined) {
    const volume = volumeOf(shape);
    const linear = FINE.linear * diagonal(looseBoxOf(shape)!);
    const triangles = volumeUnder(triangulate(shape, [], { ...FINE, linear }));
    within = Math.max(FIXED * Math.abs(volume), Math.abs(triangles - volume));
    known.set(identityOf(shape), within);
  }
  return within;
}
