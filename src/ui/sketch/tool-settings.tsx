"use client";
import { useState } from "react";
import { parseLength } from "@/core/units";
import { formatLength } from "../settings/format";
import { useJob } from "../state/context";
import { type Settings, SIDES } from "./tools/settings";

const LABELS: Record<keyof Settings, string> = {
  sides: "Sides",
  text: "Letters",
  height: "Height of capitals",
  radius: "Radius",
  cut: "Cut off",
  gap: "Distance",
};

/** What a tool draws with: a radius, a number of sides, the words. */
export function ToolSettings({
  needs,
  settings,
  onChange,
}: {
  needs: readonly (keyof Settings)[];
  settings: Settings;
  onChange(settings: Settings): void;
}) {
  const unit = useJob((state) => state.job.units);
  const [texts, setTexts] = useState(() => Object.fromEntries(needs.map((name) => [name, shown(name)])));
  function shown(name: keyof Settings): string {
    const value = settings[name];
    return typeof value === "string" || name === "sides" ? String(value) : formatLength(value as number, unit);
  }
  /** What a text means, or null when it means nothing here. */
  const read = (name: keyof Settings, text: string): string | number | null => {
    if (name === "text") return text.length > 0 && text.length <= 200 ? text : null;
    if (name === "sides") {
      const count = Number(text);
      return Number.isInteger(count) && count >= SIDES.least && count <= SIDES.most ? count : null;
    }
    const parsed = parseLength(text, unit);
    return parsed.ok && parsed.value > 0 ? parsed.value : null;
  };
  return (
    <>
      {needs.map((name) => {
        const text = texts[name] ?? "";
        const wrong = read(name, text) === null;
        return (
          <label key={name} className="flex items-center gap-1 text-[0.8125rem] text-soft">
            {LABELS[name]}
            <input
              value={text}
              autoComplete="off"
              aria-invalid={wrong || undefined}
              onChange={(event) => {
                setTexts({ ...texts, [name]: event.target.value });
                const value = read(name, event.target.value);
                if (value !== null) onChange({ ...settings, [name]: value });
              }}
              className={`num h-7 ${name === "text" ? "w-44" : "w-20"} rounded border ${wrong ? "border-bad" : "border-line"} bg-sheet px-1.5 text-ink`}
            />
          </label>
        );
      })}
    </>
  );
}
