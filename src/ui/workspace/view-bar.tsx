"use client";
import { Layers, Maximize, Minus, Plus, Ruler, Scissors } from "lucide-react";
import { useKeysOf } from "../commands/use-keys-of";
import { Choice, IconButton, Range, Toggle } from "../controls/controls";
import { useJob, useWorkspace } from "../state/context";
import { NOTHING_MEASURED } from "../state/measuring";
import type { ViewScene } from "../viewport/scene";
import type { StandardView } from "../viewport/view-camera";
import { ViewsPopover } from "./views-popover";

const VIEWS: [StandardView, string][] = [
  ["corner", "Corner"],
  ["front", "Front"],
  ["right", "Right"],
  ["top", "Top"],
  ["left", "Left"],
  ["back", "Back"],
  ["below", "Below"],
];

/** Ways to look: standard views, zoom, fit, and the section plane. */
export function ViewBar({ scene }: { scene: ViewScene | null }) {
  const section = useWorkspace((state) => state.section);
  const measuring = useWorkspace((state) => state.measuring !== null);
  const editing = useWorkspace((state) => state.editing !== null);
  const whole = useWorkspace((state) => state.whole);
  const around = useWorkspace((state) => state.around);
  const several = useJob(({ job }) => job.parts.length > 1 || job.parts.some(({ places }) => places.length > 1));
  const aroundKey = useKeysOf("around");
  const set = useWorkspace((state) => state.set);
  return (
    <div className="pointer-events-none absolute inset-x-0 top-0 flex items-start justify-end gap-2 p-2">
      {section ? (
        <fieldset className="pointer-events-auto flex w-56 flex-col gap-1.5 rounded border border-line bg-sheet/95 p-2">
          <legend className="sr-only">Section</legend>
          <Choice
            small
            hideLabel
            label="Section across"
            value={section.axis}
            options={(["x", "y", "z"] as const).map((value) => ({ value, label: `Across ${value.toUpperCase()}` }))}
            onChange={(axis) => set({ section: { axis, at: section.at, flip: section.flip } })}
          />
          <Range
            label="Section place"
            value={section.at}
            onChange={(at) => set({ section: { axis: section.axis, at, flip: section.flip } })}
            className="w-full"
          />
          <Toggle
            label="Show the other half"
            value={section.flip}
            onChange={(flip) => set({ section: { ...section, flip } })}
          />
        </fieldset>
      ) : null}
      <div
        role="toolbar"
        aria-label="View"
        className="pointer-events-auto flex items-center rounded border border-line bg-sheet/95 p-0.5"
      >
        <select
          aria-label="Standard view"
          value=""
          onChange={(event) => scene?.look(event.target.value as StandardView)}
          className="h-7 rounded bg-transparent px-1.5 hover:bg-well"
        >
          <option value="" disabled>
            Look from
          </option>
          {VIEWS.map(([view, label]) => (
            <option key={view} value={view}>
              {label}
            </option>
          ))}
        </select>
        <ViewsPopover scene={scene} />
        <IconButton label="Zoom in" keys="+" className="size-7!" onClick={() => scene?.camera.zoom(1.25)}>
          <Plus size={16} aria-hidden />
        </IconButton>
        <IconButton label="Zoom out" keys="−" className="size-7!" onClick={() => scene?.camera.zoom(0.8)}>
          <Minus size={16} aria-hidden />
        </IconButton>
        <IconButton label="Fit all" keys={useKeysOf("fit")} className="size-7!" onClick={() => scene?.fit()}>
          <Maximize size={16} aria-hidden />
        </IconButton>
        {several ? (
          <IconButton
            label="Other parts round this one"
            keys={aroundKey}
            aria-pressed={around}
            disabled={whole}
            className="size-7!"
            onClick={() => set({ around: !around })}
          >
            <Layers size={16} aria-hidden />
          </IconButton>
        ) : null}
        <IconButton
          label="Measure"
          keys={useKeysOf("measure")}
          aria-pressed={measuring}
          disabled={editing || whole}
          className="size-7!"
          onClick={() => set({ measuring: measuring ? null : NOTHING_MEASURED, hover: null })}
        >
          <Ruler size={16} aria-hidden />
        </IconButton>
        <IconButton
          label="Section"
          keys={useKeysOf("section")}
          aria-pressed={section !== null}
          className="size-7!"
          onClick={() => set({ section: section ? null : { axis: "y", at: 0.5, flip: true } })}
        >
          <Scissors size={16} aria-hidden />
        </IconButton>
      </div>
    </div>
  );
}
