import type { Graph, Walk } from "./profile/graph";

/**
 * The stretches of a drawing in the order in which they follow each other, as one path that never branches; null when
 * they are none, or more than one. A closed path begins where its first stretch does.
 */
export function pathOf({ stretches }: Graph): Walk[] | null {
  if (stretches.length === 0) return null;
  const at = new Map<number, number[]>();
  stretches.forEach(({ start, end }, i) => {
    for (const place of [start, end]) at.set(place, [...(at.get(place) ?? []), i]);
  });
  if ([...at.values()].some((list) => list.length > 2)) return null;
  const lone = [...at].filter(([, list]) => list.length === 1).map(([place]) => place);
  if (lone.length !== 0 && lone.length !== 2) return null;
  // Of the two ends, the one at which the earlier curve begins.
  const first =
    lone.length === 0 ? stretches[0]!.start : lone.reduce((a, b) => (at.get(a)![0]! <= at.get(b)![0]! ? a : b));
  const path: Walk[] = [];
  const left = new Set(stretches.map((_, i) => i));
  for (let place = first; left.size > 0; ) {
    const next = at.get(place)!.find((i) => left.has(i));
    if (next === undefined) return null;
    left.delete(next);
    const forwards = stretches[next]!.start === place;
    path.push({ stretch: next, forwards });
    place = forwards ? stretches[next]!.end : stretches[next]!.start;
  }
  return path;
}
