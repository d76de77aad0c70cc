import { bodyHandling } from "./body";
import { curveHandling } from "./curve";
import type { Handling } from "./handling";
import type { ItemKindId } from "./kinds";
import { sketchHandling } from "./sketch-item";
import { workplaneHandling } from "./workplane";

/** How items of each kind are handled. */
const HANDLINGS = {
  solid: bodyHandling,
  sheet: bodyHandling,
  workplane: workplaneHandling,
  sketch: sketchHandling,
  curve: curveHandling,
} satisfies Record<ItemKindId, unknown>;

type Handled<H> = H extends Handling<infer T, infer V> ? { item: T; view: V } : never;
type All = Handled<(typeof HANDLINGS)[ItemKindId]>;

/** Whatever lies on the bench. */
export type Item = All["item"];

/** Whatever lies on the bench, as the page is told of it. */
export type ItemView = All["view"];

/** How an item is handled. */
export const handlingOf = ({ kind }: { kind: ItemKindId }): Handling<Item, ItemView> =>
  // Each is only ever given what is of its kind.
  HANDLINGS[kind] as unknown as Handling<Item, ItemView>;
