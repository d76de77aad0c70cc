import type { Part } from "@/core/job";
import type { LengthUnit } from "@/core/units";
import type { ItemView } from "@/engine/contract";
import type { State } from "../state/view-content";
import type { ViewContent } from "../viewport/drawn";

/** What the picture is made for. */
export interface Sitting {
  state: State;
  part: Part;
  dark: boolean;
  /** The items that the open step names, or that are selected. */
  picked: ReadonlySet<string>;
}

/** How items of a kind are shown, beside what is shown of every item. */
export interface Shown<V extends ItemView> {
  /** Its sign: a path in 16 × 16, drawn with the text's colour. */
  mark: string;
  /** How large it is, in a few words. */
  size(item: V, unit: LengthUnit): string;
  /** What it is, and whether that is trouble. */
  state(item: V): { words: string; bad?: boolean };
  /** What the check panel says of it beside its size; null where that has a form of its own. */
  facts(item: V, unit: LengthUnit): [string, string][] | null;
  /** Adds it to the picture. */
  draw(item: V, into: ViewContent, sitting: Sitting): void;
}

/** Whether an item lights up as picked: by its own id, or by the step that made it. */
export const isPicked = ({ id, step }: ItemView, { picked }: Sitting): boolean => picked.has(id) || picked.has(step);
