import type { Sketch } from "@/core/sketch";
import { type HalfDrawn, preview } from "./half-drawn";
import { pathOf } from "./marks";
import type { PlaneMap } from "./plane-map";
import type { Snap } from "./snapping";
import type { DrawTool } from "./tools/draw-tools";
import type { Settings } from "./tools/settings";
import { snapWords } from "./words";

/** What the next click would draw, and what it would hold. */
export function Preview({
  tool,
  sketch,
  drawing,
  hover,
  map,
  settings,
}: {
  tool: DrawTool;
  sketch: Sketch;
  drawing: HalfDrawn | null;
  hover: Snap;
  map: PlaneMap;
  settings: Settings;
}) {
  const [x, y] = map.toPixel(hover.at);
  const curves = drawing ? preview(tool, sketch, drawing, hover, settings) : [];
  const words = snapWords(sketch, hover);
  return (
    <g className="pointer-events-none" data-snap={hover.line?.type ?? hover.rule ?? "free"}>
      <path d={curves.map((curve) => pathOf(curve, map)).join("")} fill="none" stroke="var(--pick)" strokeWidth={2} />
      {drawing?.stops.map(({ at }, i) => {
        const [px, py] = map.toPixel(at);
        return <circle key={i} cx={px} cy={py} r={3.5} fill="var(--pick)" />;
      })}
      <circle cx={x} cy={y} r={hover.rule ? 7 : 3} fill="none" stroke="var(--pick)" strokeWidth={2} />
      {words ? (
        <text x={x + 12} y={y - 10} fill="var(--pick)" className="text-[0.8125rem]">
          {words}
        </text>
      ) : null}
    </g>
  );
}
