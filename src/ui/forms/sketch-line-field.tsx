"use client";
import { useId } from "react";
import { useWorkspace } from "../state/context";
import { openRegions } from "../state/regions";

/** A straight line of the sketch that the open step takes, from a list. */
export function SketchLineField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  const id = useId();
  const editing = useWorkspace((state) => state.editing);
  const evaluation = useWorkspace((state) => state.evaluation);
  const lines = openRegions({ editing, evaluation })?.sketch.straight ?? [];
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-8 w-full rounded border border-line bg-sheet px-2"
      >
        <option value="">{lines.length === 0 ? "The sketch has no straight line" : "Choose a line"}</option>
        {lines.map((line) => (
          <option key={line} value={line}>
            {line}
          </option>
        ))}
      </select>
    </div>
  );
}
