import type { ItemKindId } from "@/core/items/kinds";
import type { ItemView } from "@/engine/contract";
import { sheetShown, solidShown } from "./body";
import { curveShown } from "./curve";
import type { Shown } from "./shown";
import { sketchShown } from "./sketch";
import { workplaneShown } from "./workplane";

/** How items of each kind are shown. A new kind is a file here and a line in this table. */
const SHOWN = {
  solid: solidShown,
  sheet: sheetShown,
  workplane: workplaneShown,
  sketch: sketchShown,
  curve: curveShown,
} satisfies Record<ItemKindId, unknown>;

/** How an item is shown. */
export const shownAs = ({ kind }: { kind: ItemKindId }): Shown<ItemView> =>
  // Each is only ever given what is of its kind.
  SHOWN[kind] as unknown as Shown<ItemView>;
