"use client";
import { useState } from "react";
import { parseAngle, parseLength } from "@/core/units";
import { Button } from "../controls/controls";
import { useJob } from "../state/context";
import type { SizeName, Sizes } from "./tools/draw-tools";

const LABELS: Record<SizeName, string> = {
  width: "Width",
  height: "Height",
  length: "Length",
  angle: "Angle",
  diameter: "Diameter",
  radius: "Radius",
  turn: "Turn",
};
/** Those that may be nothing, or run the other way. */
const ANGLES: readonly SizeName[] = ["angle", "turn"];

/** Exact sizes for what is being drawn: typed instead of clicked. */
export function TypedSizes({ fields, onFinish }: { fields: readonly SizeName[]; onFinish(sizes: Sizes): void }) {
  const unit = useJob((state) => state.job.units);
  const [texts, setTexts] = useState<Partial<Record<SizeName, string>>>({});
  const read = (name: SizeName): number | null => {
    const text = texts[name]?.trim() ?? "";
    if (text === "") return null;
    const parsed = ANGLES.includes(name) ? parseAngle(text) : parseLength(text, unit);
    return parsed.ok ? (ANGLES.includes(name) ? (parsed.value * 180) / Math.PI : parsed.value) : null;
  };
  const values = fields.map(read);
  const ready =
    values.every((value) => value !== null) && fields.every((name, i) => name === "angle" || values[i] !== 0);
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!ready) return;
        onFinish(Object.fromEntries(fields.map((name, i) => [name, values[i]!])));
        setTexts({});
      }}
    >
      {fields.map((name) => (
        <label key={name} className="flex items-center gap-1 text-[0.8125rem] text-soft">
          {LABELS[name]}
          <input
            value={texts[name] ?? ""}
            autoComplete="off"
            onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
            className="num h-7 w-20 rounded border border-line bg-sheet px-1.5 text-ink"
          />
        </label>
      ))}
      <Button small type="submit" disabled={!ready}>
        Draw it
      </Button>
    </form>
  );
}
