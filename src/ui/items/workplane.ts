import type { PlaneView } from "@/engine/contract";
import type { Shown } from "./shown";

export const workplaneShown: Shown<PlaneView> = {
  mark: "M2 11 5 4h9l-3 7zM7.5 7.5V1.5M6 3l1.5-1.5L9 3",
  size: () => "endless",
  state: () => ({ words: "workplane" }),
  facts: ({ normal }) => [["Normal", normal.map((value) => value.toFixed(4)).join(", ")]],
  draw: ({ id, origin, normal }, into, { picked }) => {
    into.planes.push({ id, origin, normal, picked: picked.has(id), pane: true });
  },
};
