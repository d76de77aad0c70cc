"use client";
import { useEffect, useId, useState } from "react";
import { asFraction, type LengthUnit, namesUnit, parseAngle, parseLength, type Quantity, toMm } from "@/core/units";

interface Props {
  label: string;
  /** A short name before the box, as X, Y, Z. */
  lead?: string;
  hideLabel?: boolean;
  kind: "length" | "angle";
  value: Quantity;
  unit: LengthUnit;
  problem?: string | undefined;
  onChange(value: Quantity): void;
}

/**
 * A box for a length or an angle: `12`, `0.5 in`, `3 1/8 in`. What is typed stays as typed; a bare number in an inch
 * job is stored with its unit, so that it means the same in any job.
 */
export function QuantityInput({ label, lead, hideLabel, kind, value, unit, problem, onChange }: Props) {
  const id = useId();
  const [text, setText] = useState(() => shown(value, kind, unit));
  const [own, setOwn] = useState<string | null>(null);
  // The value may change from outside: an undo, or a handle in the view.
  useEffect(
    () => setText((now) => (sameValue(now, value, kind, unit) ? now : shown(value, kind, unit))),
    [value, kind, unit],
  );

  const commit = (next: string) => {
    setText(next);
    const parsed = kind === "length" ? parseLength(next, unit) : parseAngle(next);
    if (!parsed.ok) {
      setOwn(parsed.problem);
      return;
    }
    setOwn(null);
    const bare = /^[+-]?[\d.]+$/.test(next.trim());
    if (kind === "length" && !namesUnit(next))
      onChange(unit === "inch" ? `${next.trim()} in` : bare ? Number(next) : next.trim());
    else onChange(bare ? Number(next) : next.trim());
  };
  const trouble = own ?? problem;
  const suffix = kind === "angle" ? "°" : unit === "mm" ? "mm" : "in";
  return (
    <div className="min-w-0 grow basis-0">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "mb-1 block text-[13px] text-soft"}>
        {label}
      </label>
      <div
        className={`flex h-8 items-center rounded border bg-sheet ${trouble ? "border-bad" : "border-line"} focus-within:border-pick`}
      >
        {lead ? (
          <span aria-hidden className="pl-2 text-[13px] text-soft">
            {lead}
          </span>
        ) : null}
        <input
          id={id}
          value={text}
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          aria-invalid={trouble ? true : undefined}
          aria-describedby={trouble ? `${id}-problem` : undefined}
          onChange={(event) => commit(event.target.value)}
          onFocus={(event) => event.target.select()}
          className="num w-full min-w-0 bg-transparent px-2 outline-none"
        />
        {namesUnit(text) ? null : (
          <span aria-hidden className="pr-2 text-[13px] text-soft">
            {suffix}
          </span>
        )}
      </div>
      {trouble ? (
        <p id={`${id}-problem`} className="mt-1 text-[13px] text-bad">
          {trouble}
        </p>
      ) : null}
    </div>
  );
}

function shown(value: Quantity, kind: "length" | "angle", unit: LengthUnit): string {
  if (typeof value === "string") return value;
  if (kind === "length" && unit === "inch") return asFraction(value) ?? String(Math.round((value / 25.4) * 1e6) / 1e6);
  return String(value);
}

function sameValue(text: string, value: Quantity, kind: "length" | "angle", unit: LengthUnit): boolean {
  const parsed = kind === "length" ? parseLength(text, unit) : parseAngle(text);
  if (!parsed.ok) return false;
  try {
    return kind === "length" ? Math.abs(parsed.value - toMm(value)) < 1e-9 : text.trim() === String(value);
  } catch {
    return false;
  }
}
