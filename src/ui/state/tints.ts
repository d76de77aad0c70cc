import { type ItemView, isBodyView } from "@/engine/contract";
import { TINTS } from "../viewport/palette";

const known = new WeakMap<readonly ItemView[], Map<string, number>>();

/** The tint of a body that nobody gave a colour, by its place among the bodies on the bench. */
export function tintOf(id: string, items: readonly ItemView[], dark: boolean): string {
  let places = known.get(items);
  if (!places) {
    places = new Map(items.filter(isBodyView).map((item, i) => [item.id, i] as const));
    known.set(items, places);
  }
  const tints = TINTS[dark ? "dark" : "light"];
  return tints[(places.get(id) ?? 0) % tints.length]!;
}
