"use client";
import { useWorkspace } from "../state/context";
import { openRegions, takenRegions, toggleRegion } from "../state/regions";
import type { ViewScene } from "../viewport/scene";
import { usePlaneMap } from "./use-plane-map";

/** The regions of the sketch that the open step draws out, over the view: a click takes one or leaves it. */
export function RegionOverlay({ scene }: { scene: ViewScene | null }) {
  const editing = useWorkspace((state) => state.editing);
  const evaluation = useWorkspace((state) => state.evaluation);
  const picking = useWorkspace((state) => state.picking);
  const hovered = useWorkspace((state) => state.hoveredRegion);
  const set = useWorkspace((state) => state.set);
  const setValues = useWorkspace((state) => state.setValues);
  const open = openRegions({ editing, evaluation });
  const map = usePlaneMap(scene, open?.sketch.frame ?? null);
  if (!open || !map || picking !== null || editing?.step.as !== "solid") return null;
  const taken = takenRegions(open.sketch, open.refs);
  return (
    <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
      <defs>
        <pattern id="taken-region" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="8" stroke="var(--pick)" strokeWidth="2.5" />
        </pattern>
      </defs>
      {open.sketch.regions.map(({ key, inner, rings }, place) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list of regions in the form is the same for the keyboard.
        <path
          key={`${key} ${inner}`}
          data-region={place}
          data-taken={taken[place] || undefined}
          d={rings
            .map(
              (ring) =>
                `M${ring
                  .map((at) =>
                    map
                      .toPixel(at)
                      .map((v) => v.toFixed(1))
                      .join(" "),
                  )
                  .join("L")}Z`,
            )
            .join("")}
          fillRule="evenodd"
          fill={taken[place] ? "url(#taken-region)" : "var(--sheet)"}
          fillOpacity={hovered === place ? 0.9 : taken[place] ? 0.45 : 0.15}
          stroke="var(--pick)"
          strokeWidth={hovered === place ? 2.5 : 1}
          className="pointer-events-auto cursor-pointer"
          onPointerEnter={() => set({ hoveredRegion: place })}
          onPointerLeave={() => set({ hoveredRegion: null })}
          onClick={() => setValues({ regions: toggleRegion(open.sketch, open.refs, place) })}
          onWheel={(event) => scene?.camera.wheel(event.nativeEvent)}
        />
      ))}
    </svg>
  );
}
