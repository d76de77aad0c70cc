import { groupedBy } from "../groups";

/** Faces in lots that hang together otherwise than across the cut. */
export function joinedApart(
  faces: readonly number[],
  cut: ReadonlySet<number>,
  edgesOf: (face: number) => readonly number[],
): number[][] {
  const keys = faces.map((face) => edgesOf(face).filter((edge) => !cut.has(edge)));
  return groupedBy(keys).map((places) => places.map((i) => faces[i]!));
}

/**
 * The lots that are no walls. At each cut one of the two that meet there is: so along a cutter that passes several skins every other one
 * is. Of the two ways to choose it is the one that leaves fewer caps – lots that end at one other alone, as the ends of a bar
 * do –, and where they leave as many, the one that lies behind the sheet.
 */
export function wrongLots(
  lots: readonly number[][],
  cut: ReadonlySet<number>,
  edgesOf: (face: number) => readonly number[],
  isBehind: (face: number) => boolean,
): number[][] {
  const at = new Map<number, Set<number>>();
  lots.forEach((faces, lot) => {
    for (const edge of faces.flatMap((face) => edgesOf(face)))
      if (cut.has(edge)) at.set(edge, (at.get(edge) ?? new Set()).add(lot));
  });
  const near = lots.map(() => new Set<number>());
  const alone = new Set<number>();
  for (const [a, b] of [...at.values()].map((some) => [...some]))
    if (b === undefined) alone.add(a!);
    else {
      near[a!]!.add(b);
      near[b]!.add(a!);
    }
  const seen = new Set<number>();
  return lots.flatMap((_, start) => {
    if (seen.has(start)) return [];
    const ways = alternating(start, near, seen);
    const loss = ways.map((way) => {
      const others = ways.find((one) => one !== way)!;
      const faces = way.flatMap((lot) => lots[lot]!);
      return [
        others.filter((lot) => alone.has(lot)).length,
        way.filter((lot) => near[lot]!.size < 2).length,
        faces.filter((face) => !isBehind(face)).length,
      ];
    }) as [number[], number[]];
    const k = loss[0].findIndex((size, i) => size !== loss[1][i]);
    const wrong = k < 0 || loss[0][k]! < loss[1][k]! ? ways[1] : ways[0];
    return wrong.map((lot) => lots[lot]!);
  });
}

/** Lots that meet each other, from one of them on: every other one, and the rest. */
function alternating(start: number, near: readonly ReadonlySet<number>[], seen: Set<number>): [number[], number[]] {
  const ways: [number[], number[]] = [[start], []];
  const side = new Map([[start, 0]]);
  const queue = [start];
  seen.add(start);
  while (queue.length > 0) {
    const lot = queue.shift()!;
    for (const other of near[lot]!)
      if (!seen.has(other)) {
        seen.add(other);
        side.set(other, 1 - side.get(lot)!);
        ways[side.get(other) as 0 | 1].push(other);
        queue.push(other);
      }
  }
  return ways;
}
