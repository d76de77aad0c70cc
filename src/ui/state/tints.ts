import type { Look } from "@/core/job";
import { type ItemView, isBodyView } from "@/engine/contract";
import { BODY_HEX, TINTS } from "../viewport/palette";

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

/** The colour that a body is drawn in: the one that a person gave it, else its tint. */
export const colourOf = (id: string, look: Look, items: readonly ItemView[], dark: boolean): string =>
  look.colour ? BODY_HEX[dark ? "dark" : "light"][look.colour] : tintOf(id, items, dark);
