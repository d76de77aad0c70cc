import { looseBoxOf } from "../facts/box";
import { surfaceRecordsOf } from "../facts/surfaces";
import { facesOf, type Shape } from "../library/topology";
import { type Box, boxesMeet, corners, dot, sub } from "../space/vectors";
import { fuse } from "./fuse";
import type { Fusion } from "./general-fuse";

/** mm: what is nearer than this may touch. */
const ROOM = 1e-2;

/**
 * Divides stock by those of the cutters that may reach it. Cutters that lie elsewhere would be divided by each other there, which takes time,
 * and where they are tangent may fail for nothing that anybody asked about. Those left out have faces without parts.
 * @throws KernelFault as `fuse` does.
 */
export function fuseWithinReach(stock: readonly Shape[], cutters: readonly Shape[], crossings: boolean): Fusion {
  const all = () => fuse([...stock, ...cutters], crossings, stock.length);
  // One alone can be left out by nobody: the library divides two at the least.
  if (cutters.length === 1) return all();
  const boxes = stock.map(looseBoxOf);
  const near = cutters.map((cutter) => boxes.some((box) => !box || mayReach(cutter, box)));
  if (!near.includes(true)) near[0] = true;
  if (!near.includes(false)) return all();
  const places = near.flatMap((is, c) => (is ? [stock.length + c] : []));
  const fusion = fuse([...stock, ...places.map((place) => cutters[place - stock.length]!)], crossings, stock.length);
  const placeOf = (a: number) => (a < stock.length ? a : places[a - stock.length]!);
  for (const cell of fusion.cells) cell.within = cell.within.map(placeOf);
  const images = [...stock, ...cutters].map((shape) => facesOf(shape).map((): Fusion["images"][number][number] => []));
  fusion.images.forEach((own, a) => {
    images[placeOf(a)] = own;
  });
  return { ...fusion, images };
}

/** Whether something may touch what lies in a box. */
function mayReach(cutter: Shape, box: Box): boolean {
  const [flat, ...more] = surfaceRecordsOf(cutter);
  if (flat?.kind === "plane" && more.length === 0) {
    const heights = corners(box).map((corner) => dot(sub(corner, flat.at), flat.axis));
    return Math.min(...heights) < ROOM && Math.max(...heights) > -ROOM;
  }
  const own = looseBoxOf(cutter);
  return !own || boxesMeet(own, box, ROOM);
}
