import type { LengthUnit } from "@/core/units";
import { counted } from "@/core/words";
import type { CurveView } from "@/engine/contract";
import { formatLength } from "../settings/format";
import { isPicked, type Shown } from "./shown";

const place = (at: readonly number[], unit: LengthUnit) =>
  at.map((value) => formatLength(value, unit).replace(/ \w+$/, "")).join(", ");

export const curveShown: Shown<CurveView> = {
  // A line through three points in space.
  mark: "M3 13C3 7 6 9 8 7s2-4 5-4M2 14h2v-2H2zM7 8h2V6H7zM12 4h2V2h-2z",
  size: ({ length }, unit) => `${formatLength(length, unit)} long`,
  state: ({ closed }) => ({ words: closed ? "curve, closed" : "curve, open" }),
  facts: ({ length, straight, splines, closed, ends }, unit) => [
    ["Length", formatLength(length, unit)],
    [
      "Made of",
      [straight ? counted(straight, "straight part") : "", splines ? counted(splines, "spline") : ""]
        .filter(Boolean)
        .join(", "),
    ],
    ...(closed
      ? ([["Ends", "none: it is closed"]] as [string, string][])
      : ([
          ["From", place(ends[0], unit)],
          ["To", place(ends[1], unit)],
        ] as [string, string][])),
  ],
  draw(item, into, sitting) {
    into.lines.push({ id: item.id, lines: item.lines, picked: isPicked(item, sitting) });
  },
};
