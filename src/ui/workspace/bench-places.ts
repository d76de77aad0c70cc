import type { Part } from "@/core/job";
import { type BodyView, type ItemView, isBodyView } from "@/engine/contract";
import { groupOf } from "../state/looks";

/** Pixels: a card, the head of a group, the button for what has served, and what is free between two of them. */
export const CARD = 228;
export const HEAD = 96;
export const SERVED = 128;
export const FREE = 8;
/** Pixels in a group's frame: from its edge to what is in it, and between two cards. */
export const EDGE = 3;
export const BETWEEN = 4;

/** One place on the strip, from where the one before it ends to where the next begins. */
export type Place = {
  /** An item's id, or a text with a space, which no id has. */
  key: string;
  width: number;
  group: string | null;
  /** Whether its group ends with it. */
  last: boolean;
} & (
  | { kind: "head"; members: readonly BodyView[] }
  | { kind: "item"; item: ItemView }
  | { kind: "served"; items: readonly ItemView[] }
);

/**
 * What lies on the bench, in order: groups, each behind its head; bodies; what they were made with; what has served.
 * @param served whether an item has served, so that it is folded away. @param open whether that is unfolded.
 */
export function placesOf(
  items: readonly ItemView[],
  part: Part,
  served: (item: ItemView) => boolean,
  open: boolean,
): Place[] {
  const groups = new Map<string, BodyView[]>(part.groups.map(({ name }) => [name, []]));
  const loose: ItemView[] = [];
  for (const item of items) {
    const group = isBodyView(item) ? groups.get(groupOf(part, item) ?? "") : undefined;
    if (group) group.push(item as BodyView);
    else loose.push(item);
  }
  // Bodies first: planes and sketches are what they were made with.
  const ordered = [...loose.filter(isBodyView), ...loose.filter((item) => !isBodyView(item))];
  const away = ordered.filter(served);
  const lying = open ? [...ordered.filter((item) => !served(item)), ...away] : ordered.filter((item) => !served(item));
  const alone = { group: null, last: false };
  return [
    ...[...groups].flatMap(([name, members]) => ofGroup(name, members)),
    ...lying.map((item): Place => ({ ...alone, kind: "item", key: item.id, width: CARD + FREE, item })),
    ...(away.length > 0
      ? [{ ...alone, kind: "served", key: " served", width: SERVED + FREE, items: away } satisfies Place]
      : []),
  ];
}

function ofGroup(group: string, members: readonly BodyView[]): Place[] {
  if (members.length === 0) return [];
  return [
    { kind: "head", key: `group ${group}`, width: EDGE + HEAD + BETWEEN, group, last: false, members },
    ...members.map((item, i): Place => {
      const last = i === members.length - 1;
      return { kind: "item", key: item.id, width: CARD + (last ? EDGE + FREE : BETWEEN), group, last, item };
    }),
  ];
}

/** What is drawn of the places in sight: each alone, or in the frame of its group, with what is out of sight left free. */
export type Drawn = { before: number; group: string | null; last: boolean; places: { before: number; place: Place }[] };

/**
 * Brings places in sight together by their groups.
 * @param inSight which of the places are in sight, in order, with the head of each group of which some are.
 */
export function drawnOf(places: readonly Place[], inSight: readonly number[]): { drawn: Drawn[]; after: number } {
  const starts = [0];
  for (const { width } of places) starts.push(starts.at(-1)! + width);
  const drawn: Drawn[] = [];
  let end = 0;
  for (const i of inSight) {
    const place = places[i]!;
    const before = starts[i]! - end;
    end = starts[i + 1]!;
    const frame = drawn.at(-1);
    if (place.group !== null && frame?.group === place.group) {
      frame.places.push({ before, place });
      frame.last = place.last;
    } else drawn.push({ before, group: place.group, last: place.last, places: [{ before: 0, place }] });
  }
  return { drawn, after: starts.at(-1)! - end };
}

/** The places in sight with the head of each group of which some are, in order. */
export function withHeads(places: readonly Place[], inSight: readonly number[]): number[] {
  const all = new Set(inSight);
  for (const i of inSight) {
    if ((places[i]?.group ?? null) === null) continue;
    let head = i;
    while (head > 0 && places[head]!.kind !== "head") head--;
    all.add(head);
  }
  return [...all].filter((i) => i < places.length).sort((a, b) => a - b);
}
