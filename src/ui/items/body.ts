import type { BodyView } from "@/engine/contract";
import { formatArea, formatVolume } from "../settings/format";
import { drawBody } from "../state/draw-body";
import type { Shown } from "./shown";

const body: Omit<Shown<BodyView>, "mark"> = {
  size: ({ measures: { volume, volumeWithin, area } }, unit) =>
    volume !== null ? formatVolume(volume, unit, volumeWithin) : formatArea(area, unit),
  state: ({ kind, measures: { closed, pinches } }) => {
    if (kind === "sheet") return { words: closed ? "sheet, closed" : "sheet, open", bad: pinches.length > 0 };
    if (!closed) return { words: "solid, not closed", bad: true };
    return pinches.length > 0 ? { words: "solid, touches itself", bad: true } : { words: "solid, closed" };
  },
  facts: () => null,
  draw(item, into, sitting) {
    const mesh = sitting.state.meshes.get(item.meshId);
    if (mesh) into.bodies.push(drawBody(item, mesh, sitting));
  },
};

export const solidShown: Shown<BodyView> = {
  ...body,
  mark: "M2.5 5 8 2l5.5 3v6L8 14l-5.5-3zM2.5 5 8 8l5.5-3M8 8v6",
};

export const sheetShown: Shown<BodyView> = { ...body, mark: "M1.5 11c3-5 5 1 8-4l5 0c-3 5-5-1-8 4z" };
