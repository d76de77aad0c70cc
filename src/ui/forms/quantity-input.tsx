"use client";
import { Pencil } from "lucide-react";
import { useEffect, useId, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { isFormula, type Quantity, quantityValue, type Scope, toMm } from "@/core/params";
import { asFraction, type LengthUnit, namesUnit, parseAngle, parseLength } from "@/core/units";
import { formatLength } from "../settings/format";
import { useScope } from "../state/context";

type Kind = "length" | "angle" | "count";

interface Props {
  label: string;
  /** A short name before the box, as X, Y, Z. */
  lead?: string;
  hideLabel?: boolean;
  kind: Kind;
  value: Quantity;
  unit: LengthUnit;
  problem?: string | undefined;
  onChange(value: Quantity): void;
}

/**
 * A box for a length or an angle: `12`, `0.5 in`, `3 1/8 in`, or a formula such as `width / 2`, with what it comes to
 * below it. What is typed stays as typed; a bare number in an inch job is stored with its unit, so that it means the
 * same in any job. A box with a formula has to be opened before it can be typed over.
 */
export function QuantityInput({ label, lead, hideLabel, kind, value, unit, problem, onChange }: Props) {
  const id = useId();
  const box = useRef<HTMLInputElement>(null);
  const scope = useScope();
  const [text, setText] = useState(() => shown(value, kind, unit));
  const [opened, setOpened] = useState(false);
  // The value may change from outside: an undo, or a handle in the view.
  useEffect(
    () => setText((now) => (sameValue(now, value, kind, unit) ? now : shown(value, kind, unit))),
    [value, kind, unit],
  );
  const driven = isFormula(value, kind);
  const locked = driven && !opened && !problem;

  const commit = (next: string) => {
    setText(next);
    setOpened(true);
    onChange(readQuantity(next, kind, unit, scope));
  };
  const open = () => {
    // At once: a key that is pressed next has to find the text selected, and the box open.
    flushSync(() => setOpened(true));
    box.current?.focus();
    box.current?.select();
  };
  const result = driven && !problem ? resultOf(value, kind, unit, scope) : null;
  const suffix = kind === "count" ? "" : kind === "angle" ? "°" : unit === "mm" ? "mm" : "in";
  return (
    <div className="min-w-0 grow basis-0">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "mb-1 block text-[0.8125rem] text-soft"}>
        {label}
      </label>
      <div
        className={`flex h-8 items-center rounded border ${locked ? "bg-well" : "bg-sheet"} ${problem ? "border-bad" : "border-line"} focus-within:border-pick`}
      >
        {lead ? (
          <span aria-hidden className="pl-2 text-[0.8125rem] text-soft">
            {lead}
          </span>
        ) : null}
        <input
          ref={box}
          id={id}
          value={text}
          title={driven ? text : undefined}
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          readOnly={locked}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-problem` : result ? `${id}-result` : undefined}
          onChange={(event) => commit(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={() => setOpened(false)}
          onDoubleClick={() => locked && open()}
          onKeyDown={(event) => {
            if (!locked || (event.key !== "Enter" && event.key !== "F2")) return;
            event.preventDefault();
            open();
          }}
          className="num w-full min-w-0 bg-transparent px-2 outline-none"
        />
        {locked ? (
          <button
            type="button"
            aria-label={`Change the formula of ${label}`}
            title="Change the formula (Enter)"
            onClick={open}
            className="mr-0.5 grid size-7 shrink-0 place-items-center rounded text-soft hover:text-ink"
          >
            <Pencil size={13} aria-hidden />
          </button>
        ) : namesUnit(text) || driven ? null : (
          <span aria-hidden className="pr-2 text-[0.8125rem] text-soft">
            {suffix}
          </span>
        )}
      </div>
      {result ? (
        <p id={`${id}-result`} className="num mt-0.5 truncate text-[0.8125rem] text-soft">
          = {result}
        </p>
      ) : null}
      {problem ? (
        <p id={`${id}-problem`} className="mt-1 text-[0.8125rem] text-bad">
          {problem}
        </p>
      ) : null}
    </div>
  );
}

/** What a typed text is as a number field's value. What is wrong with it stays as it is, for the form to say so. */
function readQuantity(text: string, kind: Kind, unit: LengthUnit, scope: Scope): Quantity {
  const written = text.trim();
  if (kind === "count") return /^[+-]?\d+(\.\d+)?$/.test(written) ? Number(written) : written;
  const parsed = kind === "length" ? parseLength(written, unit) : parseAngle(written);
  if (parsed.ok) {
    const bare = /^[+-]?[\d.]+$/.test(written);
    if (kind === "length" && !namesUnit(written))
      return unit === "inch" ? `${written} in` : bare ? Number(written) : written;
    return bare ? Number(written) : written;
  }
  // A plain result counts in the unit of the job it is typed in, whatever is shown later.
  const plain = kind === "length" && unit === "inch" && isFormula(written, kind) && isPlainFormula(written, scope);
  return plain ? `(${written}) in` : written;
}

/** Whether a formula comes to a plain number: then it does not bear a unit yet. */
function isPlainFormula(formula: string, scope: Scope): boolean {
  try {
    quantityValue(`(${formula}) in`, "length", scope);
    return true;
  } catch {
    return false;
  }
}

function resultOf(value: Quantity, kind: Kind, unit: LengthUnit, scope: Scope): string | null {
  try {
    const size = quantityValue(value, kind, scope);
    if (kind === "length") return formatLength(size, unit);
    return `${Math.round(size * 1e4) / 1e4}${kind === "angle" ? "°" : ""}`;
  } catch {
    return null;
  }
}

function shown(value: Quantity, kind: Kind, unit: LengthUnit): string {
  if (typeof value === "string") return value;
  if (kind === "length" && unit === "inch") return asFraction(value) ?? String(Math.round((value / 25.4) * 1e6) / 1e6);
  return String(value);
}

function sameValue(text: string, value: Quantity, kind: Kind, unit: LengthUnit): boolean {
  if (text.trim() === value) return true;
  if (kind === "count") return text.trim() === String(value);
  if (isFormula(value, kind)) return text.trim() === value || `(${text.trim()}) in` === value;
  const parsed = kind === "length" ? parseLength(text, unit) : parseAngle(text);
  if (!parsed.ok) return false;
  try {
    return kind === "length" ? Math.abs(parsed.value - toMm(value)) < 1e-9 : text.trim() === String(value);
  } catch {
    return false;
  }
}
