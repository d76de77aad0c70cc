"use client";
import { Minus, Plus } from "lucide-react";
import { IconButton } from "../controls/controls";
import { usePickable } from "./item-fields";

/** For each section of a loft, by how many corners its start is moved on: which corner goes to which. */
export function StartsField({
  label,
  sections,
  value,
  onChange,
}: {
  label: string;
  sections: string[];
  value: number[];
  onChange(value: number[]): void;
}) {
  const items = usePickable();
  if (sections.length < 2) return null;
  const set = (at: number, start: number) => onChange(sections.map((_, i) => (i === at ? start : (value[i] ?? 0))));
  return (
    <details className="rounded border border-line bg-sheet" open={value.some((start) => start !== 0)}>
      <summary className="cursor-pointer px-2 py-1.5">{label}</summary>
      <ul className="border-t border-line px-2 py-1">
        {sections.map((id, at) => {
          const name = items.find((item) => item.id === id || item.step === id)?.name ?? `Section ${at + 1}`;
          const start = value[at] ?? 0;
          return (
            <li key={id} className="flex items-center justify-between gap-2 py-0.5">
              <span className="min-w-0 truncate">{name}</span>
              <span className="flex items-center">
                <IconButton label={`${name}: one corner back`} className="size-7!" onClick={() => set(at, start - 1)}>
                  <Minus size={14} aria-hidden />
                </IconButton>
                <output className="num w-7 text-center" aria-label={`${name}: corners moved on`}>
                  {start}
                </output>
                <IconButton label={`${name}: one corner on`} className="size-7!" onClick={() => set(at, start + 1)}>
                  <Plus size={14} aria-hidden />
                </IconButton>
              </span>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
