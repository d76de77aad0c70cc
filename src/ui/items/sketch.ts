import { counted } from "@/core/words";
import type { SketchView } from "@/engine/contract";
import { isPicked, type Shown } from "./shown";

export const sketchShown: Shown<SketchView> = {
  // A pencilled outline with its corner points.
  mark: "M3 12.5 6 4l7 3-4 6zM2 13.5h2v-2H2zM5 5h2V3H5zM12 8h2V6h-2z",
  size: ({ curves, regions }) => `${counted(curves, "curve")}, ${counted(regions.length, "region")}`,
  state: () => ({ words: "sketch" }),
  facts: () => [],
  draw(item, into, sitting) {
    const { editing, picking } = sitting.state;
    // The open one is drawn over the view, where it follows the pointer.
    if (editing?.step.type === "sketch" && editing.step.id === item.step && picking === null) return;
    into.lines.push({ id: item.id, lines: item.lines, picked: isPicked(item, sitting) });
  },
};
