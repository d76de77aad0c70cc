import type { Body } from "../items";
import { diagonal, looseBoxOf, nearest, outwardAlong, runInside, type Vec3 } from "../kernel";
import { SAME_PLACE } from "../tolerance";
import type { Dangling, Knife } from "./division";
import { endOfSlit, type Slit } from "./slits";

/** Where and by how much a cutter fails to divide its stock. */
export interface Shortfall {
  cutter: string;
  stock: string;
  /** `short`: it enters and stops inside; `misses`: it does not reach at all; `grazes`: it touches without dividing. */
  how: "short" | "misses" | "grazes";
  /** How much is missing, mm: along the cutter where it is short, across the gap where it misses. */
  by: number;
  at: Vec3;
}

/** How far a cutter that ends inside stock would have to go on, measured along itself from each edge that it ends at. */
export function shortBy(dangling: Dangling, stock: Body): Shortfall {
  const { fusion, faces, all, cutter } = dangling;
  const uses = new Map<number, number[]>();
  for (const face of all)
    for (const { edge } of fusion.faceEdges(face)) {
      const list = uses.get(edge);
      if (list) list.push(face);
      else uses.set(edge, [face]);
    }
  const box = looseBoxOf(stock.shape);
  const limit = box ? 2 * diagonal(box) : 1000;
  let worst: Shortfall = { cutter, stock: stock.id, how: "short", by: 0, at: [0, 0, 0] };
  for (const [edge, users] of uses) {
    if (users.length !== 1 || !faces.includes(users[0]!)) continue;
    for (const { at, outward } of outwardAlong(fusion.faceHandle(users[0]!), fusion.edgeHandle(edge), 5)) {
      const by = runInside(stock.shape, at, outward, limit);
      if (by > worst.by) worst = { ...worst, by, at };
    }
  }
  return worst;
}

/** Where a cutter that crosses a sheet ends within it; null where it does not. */
export function shortOnSheet(slit: Slit, { id, shape }: Body): Shortfall | null {
  const end = endOfSlit(slit, shape);
  return end && { cutter: slit.cutter, stock: id, how: "short", ...end };
}

/** How far away a cutter passes that touches none of the stock; the nearest stock is named. */
export function missesBy(cutter: Knife, stock: readonly Body[]): Shortfall {
  let best: Shortfall | null = null;
  for (const body of stock) {
    const near = nearest(cutter.shape, body.shape);
    if (near && (!best || near.gap < best.by))
      best = {
        cutter: cutter.item.id,
        stock: body.id,
        how: near.gap > SAME_PLACE ? "misses" : "grazes",
        by: near.gap,
        at: near.on1,
      };
  }
  return best ?? { cutter: cutter.item.id, stock: stock[0]?.id ?? "", how: "misses", by: 0, at: [0, 0, 0] };
}
