import { edgeEnds, type Fusion, openEdgeAhead, type Shape, type Vec3 } from "../kernel";
import type { Scene } from "./scene";

/** A line along which a cutter crosses a stock sheet without dividing it: it ends within the sheet. */
export interface Slit {
  cutter: string;
  stock: string;
  fusion: Fusion;
  /** The edges of the arrangement that it is. */
  edges: number[];
}

/** Where cutters cross stock sheets part of the way. Where one only touches a sheet, it crosses nothing. */
export function slitsOf(scene: Scene): Slit[] {
  const { fusion, stock, cutters, uses } = scene;
  if (!stock.some(({ kind }) => kind === "sheet")) return [];
  const times = new Map<number, Map<number, number>>();
  for (const [face, list] of uses)
    for (const { edge, loose } of fusion.faceEdges(face))
      for (const { cutter } of list) {
        const of = times.get(edge) ?? new Map<number, number>();
        times.set(edge, of.set(cutter, (of.get(cutter) ?? 0) + (loose ? 2 : 1)));
      }
  return stock.flatMap((body, a) => {
    if (body.kind !== "sheet") return [];
    const faces = fusion.images[a]!.flat().map(({ face }) => face);
    const found = new Map<number, Set<number>>();
    for (const face of faces)
      for (const { edge, loose } of fusion.faceEdges(face)) {
        if (!loose) continue;
        // Where the sheet lies in a cutter's skin, lines of that skin cross nothing.
        const within = new Set(uses.get(face)?.map(({ cutter }) => cutter));
        for (const [cutter, count] of times.get(edge) ?? [])
          if (count > 1 && !within.has(cutter)) found.set(cutter, (found.get(cutter) ?? new Set()).add(edge));
      }
    return [...found].map(
      ([cutter, edges]): Slit => ({
        cutter: cutters[cutter]!.item.id,
        stock: body.id,
        fusion,
        edges: [...edges],
      }),
    );
  });
}

/**
 * Where a slit ends within its sheet, and how far it would have to go on straight to come out of it, mm; 0 where that cannot be told, as
 * on a sheet that bends away.
 */
export function endOfSlit({ fusion, edges }: Slit, sheet: Shape): { at: Vec3; by: number } | null {
  const ends = edges.flatMap((edge) => edgeEnds(fusion.edgeHandle(edge)));
  const same = (one: Vec3, other: Vec3) => one.every((x, i) => Math.abs(x - other[i]!) < 1e-6);
  // Ends at which one edge of it goes on into the next are none.
  const free = ends.filter(({ at }) => ends.filter((other) => same(other.at, at)).length === 1);
  const inside = free.flatMap(({ at, outward }) => {
    const ahead = openEdgeAhead(sheet, at, outward);
    return ahead === null ? [] : [{ at, by: ahead }];
  });
  return inside.sort((a, b) => b.by - a.by)[0] ?? null;
}
