"use client";
import { Button, Check } from "../controls/controls";
import { formatArea } from "../settings/format";
import { useJob, useWorkspace } from "../state/context";
import { openRegions, takenRegions, toggleRegion } from "../state/regions";

/** Which regions of a sketch are drawn out: picked in the view, or from this list. */
export function RegionsField({ label }: { label: string }) {
  const unit = useJob((state) => state.job.units);
  const editing = useWorkspace((state) => state.editing);
  const evaluation = useWorkspace((state) => state.evaluation);
  const hovered = useWorkspace((state) => state.hoveredRegion);
  const set = useWorkspace((state) => state.set);
  const setValues = useWorkspace((state) => state.setValues);
  const open = openRegions({ editing, evaluation });
  if (!open || open.sketch.regions.length === 0) return null;
  const taken = takenRegions(open.sketch, open.refs);
  return (
    <fieldset aria-label={label} className="min-w-0">
      <div className="mb-1 flex items-center justify-between text-[0.8125rem] text-soft">
        <span>
          {label}: <span className="num">{taken.filter(Boolean).length}</span> of{" "}
          <span className="num">{taken.length}</span>
          {open.refs.length === 0 ? ", all that are no holes" : ""}
        </span>
        {open.refs.length > 0 ? (
          <Button small tone="quiet" onClick={() => setValues({ regions: [] })}>
            All again
          </Button>
        ) : null}
      </div>
      <div className="max-h-36 relative overflow-auto rounded border border-line bg-sheet px-2 py-1">
        {open.sketch.regions.map((region, place) => (
          <div
            key={`${region.key} ${region.inner}`}
            className={`py-0.5 ${hovered === place ? "bg-well" : ""}`}
            onPointerEnter={() => set({ hoveredRegion: place })}
            onPointerLeave={() => set({ hoveredRegion: null })}
          >
            <Check
              checked={taken[place]!}
              onChange={() => setValues({ regions: toggleRegion(open.sketch, open.refs, place) })}
            >
              Region {place + 1}, <span className="num">{formatArea(region.area, unit)}</span>
              {region.rings.length > 1
                ? `, ${region.rings.length - 1} ${region.rings.length === 2 ? "hole" : "holes"}`
                : ""}
            </Check>
          </div>
        ))}
      </div>
    </fieldset>
  );
}
