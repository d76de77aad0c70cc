import { fail } from "../../errors";
import { drawOutSolid, type PlanarStretch } from "../../kernel";
import { toMm } from "../../params";
import { SAME_PLACE } from "../../tolerance";
import { evaluates } from "../evaluation";
import { toVec3 } from "../shared/space";
import { wedge } from "./declare";

export const evaluateWedge = evaluates(wedge, {
  weighed: () => true,
  evaluate(values, { step }) {
    const [length, width, height, top] = [values.length, values.width, values.height, values.top].map(toMm) as [
      number,
      number,
      number,
      number,
    ];
    if (top >= length - SAME_PLACE)
      fail("no-slope", "The top is as long as the base, so nothing narrows. Make it shorter, or use a block.", {
        step,
        field: "top",
      });
    const from = values.ridge === "start" ? 0 : (length - top) / 2;
    const corners: [number, number][] = [
      [0, 0],
      [length, 0],
      [from + top, height],
    ];
    const names = ["base", "slope", "top", "start"];
    if (top > SAME_PLACE) corners.push([from, height]);
    else names.splice(2, 1);
    const stretches = corners.map((corner, i): PlanarStretch => {
      const end = (i + 1) % corners.length;
      return { shape: { kind: "line", from: corner, to: corners[end]! }, from: 0, to: 1, start: i, end };
    });
    // The outline stands upright, and is drawn out along Y: its plane looks against it.
    const frame = { origin: toVec3(values.at), normal: [0, -1, 0], x: [1, 0, 0] } as const;
    const { shape, sources } = drawOutSolid(
      frame,
      corners,
      stretches,
      stretches.map((_, stretch) => ({ stretch, forwards: true })),
      [],
      -width,
      0,
    );
    const faces = sources.map((source) =>
      typeof source === "number"
        ? `${step}:side:${names[source]}`
        : `${step}:side:${source === "end" ? "front" : "back"}`,
    );
    return { made: [{ id: `${step}:wedge`, kind: "solid", shape, faces, hint: { text: "Wedge" } }], used: [] };
  },
});
