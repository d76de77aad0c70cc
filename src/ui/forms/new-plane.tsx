"use client";
import { Plus } from "lucide-react";
import { type ItemView, isBodyView } from "@/engine/contract";
import { useWorkspace } from "../state/context";
import { PLANE_HERE } from "../state/view-content";
import { useActions } from "../workspace/actions";

/** The planes that can be made in place, each through the middle of the stock, with what it is square to. */
const WAYS = [
  { base: "xy", axis: 2, label: "XY, level" },
  { base: "yz", axis: 0, label: "YZ" },
  { base: "zx", axis: 1, label: "ZX" },
] as const;

/** Makes a workplane for the open step to cut with, as a step of its own before it: it is dragged to its place in the view. */
export function NewPlane({ stock }: { stock: readonly ItemView[] }) {
  const { cutBy } = useActions();
  const set = useWorkspace((state) => state.set);
  const placing = useWorkspace((state) => state.picking === PLANE_HERE);
  return (
    <fieldset
      aria-label="New plane"
      className="mt-1.5 flex flex-wrap items-center gap-1.5 text-[0.8125rem] whitespace-nowrap text-soft"
    >
      <Plus size={14} aria-hidden />
      New plane
      {WAYS.map((way) => (
        <button
          key={way.base}
          type="button"
          title={`A workplane ${way.label} through the middle of the stock, to be dragged to its place`}
          onClick={() => cutBy({ base: way.base, offset: middleOf(stock, way.axis) })}
          className="h-6 rounded border border-line bg-sheet px-1.5 text-ink hover:border-ink"
        >
          {way.label}
        </button>
      ))}
      <button
        type="button"
        aria-pressed={placing}
        title="A workplane through the place that you click at on a face, square to the face there"
        onClick={() => set({ picking: placing ? null : PLANE_HERE })}
        className={`h-6 rounded border px-1.5 ${placing ? "border-ink bg-ink text-sheet" : "border-line bg-sheet text-ink hover:border-ink"}`}
      >
        {placing ? "Click on a face" : "Square to a face"}
      </button>
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
