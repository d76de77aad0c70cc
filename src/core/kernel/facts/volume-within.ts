import { identityOf } from "../library/identity";
import { type Shape, shapeKind } from "../library/topology";
import { type Mesh, tessellate } from "../mesh/tessellate";
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
    const triangles = volumeUnder(tessellate(shape, { ...FINE, linear }));
    within = Math.max(FIXED * Math.abs(volume), Math.abs(triangles - volume));
    known.set(identityOf(shape), within);
  }
  return within;
}

/** Volume within a skin of triangles: the sum of tetrahedra with their sign (divergence theorem). */
function volumeUnder({ positions, indices }: Mesh): number {
  let six = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [3 * indices[i]!, 3 * indices[i + 1]!, 3 * indices[i + 2]!];
    const at = (corner: number, k: number) => positions[corner + k]!;
    six +=
      at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) +
      at(a, 1) * (at(b, 2) * at(c, 0) - at(b, 0) * at(c, 2)) +
      at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0));
  }
  return six / 6;
}
