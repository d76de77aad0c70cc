"use client";
import { useId } from "react";
import type { Field } from "@/core/steps";

/** Fits that are often asked for: with the hole at zero, then with the shaft. */
const USUAL = ["H11/d11", "H8/f7", "H7/g6", "H7/h6", "H7/k6", "H7/n6", "H7/p6", "H7/s6", "F8/h7", "G7/h6", "P7/h6"];

/** A fit by ISO 286, typed or taken from the usual ones; empty for none. */
export function FitField({ field, value, onChange }: { field: Field; value: string; onChange(value: string): void }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
        {field.label}
      </label>
      <input
        id={id}
        list={`${id}-usual`}
        value={value}
        maxLength={20}
        placeholder="none, or as H7/g6"
        autoComplete="off"
        spellCheck={false}
        onChange={(event) => onChange(event.target.value)}
        className="num h-8 w-full rounded border border-line bg-sheet px-2"
      />
      <datalist id={`${id}-usual`}>
        {USUAL.map((fit) => (
          <option key={fit} value={fit} />
        ))}
      </datalist>
    </div>
  );
}
