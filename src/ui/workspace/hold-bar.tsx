"use client";
import { useSortable } from "@dnd-kit/sortable";
import { Mark } from "../marks/marks";
import { useActions } from "./actions";

/** The row of the hold point among the steps. */
export const HOLD = "hold-point";

/** The line on the build sheet up to which the part is built now. */
export function HoldBar({ atEnd, locked }: { atEnd: boolean; locked: boolean }) {
  const { setNodeRef, attributes, listeners, transform, isDragging } = useSortable({ id: HOLD });
  const { hold } = useActions();
  return (
    <div
      ref={setNodeRef}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      className={`flex h-7 items-center gap-2 px-2 text-[0.8125rem] ${isDragging ? "relative z-10 bg-pick-wash" : ""}`}
    >
      <button
        type="button"
        {...attributes}
        {...(locked ? {} : listeners)}
        aria-label="Hold point: the part is built up to here. Space to pick up, arrow keys to move."
        className="flex cursor-grab items-center gap-1 rounded px-1 text-soft hover:bg-well"
      >
        <Mark name="held" />
        {atEnd ? "Built to the end" : "Hold point"}
      </button>
      <span className="h-0.5 grow bg-ink" aria-hidden />
      {atEnd ? null : (
        <button type="button" className="rounded px-1 text-pick underline" onClick={() => hold(null)}>
          Build all
        </button>
      )}
    </div>
  );
}
