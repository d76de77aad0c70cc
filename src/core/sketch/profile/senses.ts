import { Groups } from "../../groups";
import type { Graph } from "./graph";
import { filledRegions, type Profile } from "./regions";

/**
 * Which way each stretch counts as running, so that the side to its left is the same one however it was drawn: 1 as
 * drawn, −1 the other way, 0 where it tells no sides apart.
 *
 * Round what is filled, that lies to the left: inside a closed outline, and outside one that lies in another, as a hole
 * does. Where both sides are filled a stretch only divides. Curves that follow each other without enclosing anything
 * run the way the first of them was drawn.
 */
export function sensesOf(profile: Profile): (1 | -1 | 0)[] {
  const { stretches } = profile.graph;
  const filled = stretches.map(() => ({ left: false, right: false }));
  for (const { outline, holes } of filledRegions(profile))
    for (const { stretch, forwards } of [outline, ...holes].flat())
      filled[stretch]![forwards ? "left" : "right"] = true;
  const chained = chainSenses(
    profile.graph,
    stretches.flatMap((_, i) => (filled[i]!.left || filled[i]!.right ? [] : [i])),
  );
  return filled.map(({ left, right }, i) => {
    if (left !== right) return left ? 1 : -1;
    return left ? 0 : chained.get(i)!;
  });
}

/** The senses of stretches that follow each other: as the first listed of each chain runs; as drawn where chains branch. */
function chainSenses({ stretches }: Graph, open: readonly number[]): Map<number, 1 | -1> {
  const at = new Map<number, number[]>();
  const groups = new Groups(open.length);
  open.forEach((stretch, i) => {
    const { start, end } = stretches[stretch]!;
    for (const place of [start, end]) {
      const list = at.get(place);
      if (list) {
        groups.join(i, list[0]!);
        list.push(i);
      } else at.set(place, [i]);
    }
  });
  const senses = new Map<number, 1 | -1>();
  for (const group of groups.all()) {
    const branched = group.some((i) => {
      const { start, end } = stretches[open[i]!]!;
      return at.get(start)!.length > 2 || at.get(end)!.length > 2;
    });
    for (const i of group) if (branched) senses.set(open[i]!, 1);
    if (branched) continue;
    const lead = Math.min(...group);
    senses.set(open[lead]!, 1);
    const queue = [lead];
    while (queue.length > 0) {
      const i = queue.pop()!;
      const own = stretches[open[i]!]!;
      for (const place of [own.start, own.end])
        for (const j of at.get(place)!) {
          if (senses.has(open[j]!)) continue;
          const other = stretches[open[j]!]!;
          const follows = (own.end === place) === (other.start === place);
          senses.set(open[j]!, (follows ? 1 : -1) * senses.get(open[i]!)! === 1 ? 1 : -1);
          queue.push(j);
        }
    }
  }
  return senses;
}
