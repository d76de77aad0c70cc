import { PATCH_NUMBERS, patchOf, pointsOf } from "../binary";
import { identityOf } from "../library/identity";
import { incidenceOf } from "../library/incidence";
import type { Shape } from "../library/topology";
import { cross, dot, unit, type Vec3 } from "../space/vectors";

/** How tightly a free face bends to one of its sides, mm: between which radii, where it was looked at; Infinity where it is flat or bends the other way. */
export interface Bend {
  least: number;
  most: number;
  /** Where it bends most. */
  at: Vec3;
}

/** How a free face bends: away from what it is of, as a rounded corner does, and towards it, as a rounded nook. */
export interface Curving {
  outwards: Bend;
  inwards: Bend;
}

/** In how many places along each edge it is looked at. */
const PLACES = 8;

const known = new WeakMap<object, Map<number, Curving | null>>();

/**
 * How a free face bends, by its place in a shape, from the curvatures of its surface at places that are surely on it: those of its
 * edges. So what it says of a place is true, but it may bend more between.
 * Null for a face that has a closed form, or whose numbers are not at hand.
 */
export function curvingOf(shape: Shape, place: number): Curving | null {
  const id = identityOf(shape);
  const list = known.get(id) ?? new Map<number, Curving | null>();
  known.set(id, list);
  let found = list.get(place);
  if (found === undefined) {
    found = bends(shape, place);
    list.set(place, found);
  }
  return found;
}

function bends(shape: Shape, place: number): Curving | null {
  const face = incidenceOf(shape).faces[place]!;
  const patch = face.surface && patchOf(face.surface);
  if (!patch) return null;
  const numbers = new Float64Array(PATCH_NUMBERS);
  const none = (): Bend => ({ least: Number.POSITIVE_INFINITY, most: 0, at: [0, 0, 0] });
  const found: Curving = { outwards: none(), inwards: none() };
  let looked = 0;
  for (const use of face.wires.flat()) {
    const image = face.image(use);
    const points = image && pointsOf(image.curve);
    if (!image || !points) continue;
    for (let i = 0; i <= PLACES; i++) {
      const [u, v] = points(image.from + ((image.to - image.from) * i) / PLACES).at;
      patch.at(u!, v!, numbers);
      const curved = curvaturesAt(numbers);
      if (!curved) continue;
      looked++;
      const at: Vec3 = [numbers[0]!, numbers[1]!, numbers[2]!];
      const sign = face.forward ? 1 : -1;
      // Against the normal the surface bends away from it.
      const [away, towards] = [curved.map((k) => -sign * k), curved.map((k) => sign * k)].map((both) =>
        Math.max(...both, 0),
      );
      for (const [bend, k] of [
        [found.outwards, away!],
        [found.inwards, towards!],
      ] as const) {
        const radius = k > 0 ? 1 / k : Number.POSITIVE_INFINITY;
        if (radius < bend.least) [bend.least, bend.at] = [radius, at];
        bend.most = Math.max(bend.most, radius);
      }
    }
  }
  return looked > 0 ? found : null;
}

/** The two principal curvatures of a surface where its numbers are, above 0 where it bends towards its normal; null where it has none. */
function curvaturesAt(numbers: Float64Array): [number, number] | null {
  const vector = (k: number): Vec3 => [numbers[3 * k]!, numbers[3 * k + 1]!, numbers[3 * k + 2]!];
  const [, du, dv, duu, duv, dvv] = [0, 1, 2, 3, 4, 5].map(vector) as [Vec3, Vec3, Vec3, Vec3, Vec3, Vec3];
  const normal = unit(cross(du, dv));
  // The first and the second fundamental form.
  const [e, f, g] = [dot(du, du), dot(du, dv), dot(dv, dv)];
  const [l, m, n] = [dot(duu, normal), dot(duv, normal), dot(dvv, normal)];
  const area = e * g - f * f;
  if (!(area > 1e-12 * e * g)) return null;
  const mean = (e * n - 2 * f * m + g * l) / (2 * area);
  const root = Math.sqrt(Math.max(mean * mean - (l * n - m * m) / area, 0));
  return [mean + root, mean - root];
}
