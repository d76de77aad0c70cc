"use client";
import { Plus } from "lucide-react";
import { freshStepId, insertBefore, newStep, type Step } from "@/core/job";
import { type ItemView, isBodyView } from "@/engine/contract";
import { usePart, useStores } from "../state/context";

/** The planes that can be made in place, each through the middle of the stock, with what it is square to. */
const WAYS = [
  { base: "xy", axis: 2, label: "XY, level" },
  { base: "yz", axis: 0, label: "YZ" },
  { base: "zx", axis: 1, label: "ZX" },
] as const;

/** Makes a workplane for the open step to cut with, as a step of its own before it: it is dragged to its place in the view. */
export function NewPlane({ stock, onMade }: { stock: readonly ItemView[]; onMade(step: string): void }) {
  const { workspace, job } = useStores();
  const part = usePart();
  const make = ({ base, axis }: (typeof WAYS)[number]) => {
    const { editing } = workspace.getState();
    if (!editing) return;
    const id = freshStepId({ ...part, steps: [...part.steps, editing.step] });
    const plane: Step = newStep(id, "workplane", { base, offset: middleOf(stock, axis) });
    job.store.getState().editPart(part.id, "Add a plane to cut with", (draft) => {
      insertBefore(draft, plane, editing.step.id);
    });
    onMade(id);
  };
  return (
    <fieldset aria-label="New plane" className="mt-1.5 flex items-center gap-1.5 text-[0.8125rem] text-soft">
      <Plus size={14} aria-hidden />
      New plane
      {WAYS.map((way) => (
        <button
          key={way.base}
          type="button"
          title={`A workplane ${way.label} through the middle of the stock, to be dragged to its place`}
          onClick={() => make(way)}
          className="h-6 rounded border border-line bg-sheet px-1.5 text-ink hover:border-ink"
        >
          {way.label}
        </button>
      ))}
    </fieldset>
  );
}

/** The middle of bodies along an axis, mm, to a tenth; 0 where there are none. */
function middleOf(stock: readonly ItemView[], axis: 0 | 1 | 2): number {
  const boxes = stock.filter(isBodyView).flatMap(({ measures }) => measures.box ?? []);
  if (boxes.length === 0) return 0;
  const low = Math.min(...boxes.map(({ min }) => min[axis]));
  const high = Math.max(...boxes.map(({ max }) => max[axis]));
  return Math.round(5 * (low + high)) / 10;
}
