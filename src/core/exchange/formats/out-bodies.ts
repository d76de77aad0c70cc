import type { Part } from "../../job/document";
import { BODY_SRGB, keptOf } from "../../job/looks";
import { type Item, isBody } from "../../naming";
import type { OutBody } from "./declare";

/** The bodies among items of a part's bench, as they are written: with the names and the colours that people gave them. */
export function outBodies(
  { looks }: Pick<Part, "looks">,
  bench: readonly { item: Item; name: string; was: readonly string[] }[],
): OutBody[] {
  return bench.flatMap(({ item, name, was }) => {
    if (!isBody(item)) return [];
    const { colour } = keptOf(looks, { id: item.id, was }) ?? {};
    return [{ name, kind: item.kind, shape: item.shape, colour: colour ? BODY_SRGB[colour] : null }];
  });
}
