import { has, type Item } from "../../items";
import type { Part } from "../../job/document";
import { BODY_SRGB, keptOf } from "../../job/looks";
import type { OutItem } from "./declare";

/** The bodies and curves among items of a part's bench, as they are written: with the names and the colours that people gave them. */
export function outItems(
  { looks }: Pick<Part, "looks">,
  bench: readonly { item: Item; name: string; was: readonly string[] }[],
): OutItem[] {
  return bench.flatMap(({ item, name, was }): OutItem[] => {
    const { colour: own } = keptOf(looks, { id: item.id, was }) ?? {};
    const colour = own ? BODY_SRGB[own] : null;
    if (has(item, "body")) return [{ name, colour, kind: item.kind, shape: item.shape }];
    return has(item, "path") ? [{ name, colour, kind: item.kind, spans: item.spans }] : [];
  });
}
