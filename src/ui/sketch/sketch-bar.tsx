"use client";
import { useState } from "react";
import { type Dimension, fittingConstraints, fittingDimensions, type Sketch, SketchEdit } from "@/core/sketch";
import { parseAngle, parseLength } from "@/core/units";
import { Button, Choice } from "../controls/controls";
import { useJob } from "../state/context";
import { type Drawing, type SketchTool, TYPED, type TypedSizes } from "./drawing-tools";
import type { OpenSketch } from "./use-sketch";

const CONSTRAINT_WORDS = {
  coincident: "Together",
  on: "On it",
  midpoint: "Midpoint",
  horizontal: "Level",
  vertical: "Upright",
  parallel: "Parallel",
  perpendicular: "Square",
  tangent: "Tangent",
  equal: "Equal",
  concentric: "Concentric",
  symmetric: "Symmetric",
  fixed: "Fix here",
} as const;

const DIMENSION_WORDS = {
  distance: "Distance",
  across: "Across",
  upright: "Upright distance",
  radius: "Radius",
  diameter: "Diameter",
  angle: "Angle",
} as const;

/** The tools of a sketch, what fits what is picked, and how it stands. */
export function SketchBar({
  open,
  tool,
  picked,
  drawing,
  trouble,
  onTool,
  onPut,
  onTakeOut,
  onFinish,
}: {
  open: OpenSketch;
  tool: SketchTool;
  picked: readonly string[];
  drawing: Drawing | null;
  trouble: string | null;
  onTool(tool: SketchTool): void;
  onPut(sketch: Sketch): boolean;
  onTakeOut(): void;
  onFinish(sizes: TypedSizes): void;
}) {
  const { sketch, state } = open;
  const rules = fittingConstraints(sketch, picked);
  const sizes = fittingDimensions(sketch, picked);
  const about = (of: readonly string[]) => picked.some((id) => of.includes(id));
  const held = [
    ...sketch.constraints
      .filter(({ id, of }) => about(of) || picked.includes(id))
      .map(({ id, type, of }) => ({ id, words: `${CONSTRAINT_WORDS[type]} ${others(of, picked)}`.trim() })),
    ...sketch.dimensions
      .filter(({ id, of }) => about(of) || picked.includes(id))
      .map(({ id, type, name }) => ({ id, words: name ?? `${DIMENSION_WORDS[type]} ${id}` })),
  ];
  return (
    <section
      aria-label="Sketch"
      className="absolute top-2 left-2 z-10 flex max-w-[min(560px,70%)] flex-col gap-2 rounded border border-line bg-sheet/95 p-2"
    >
      <div className="flex flex-wrap items-center gap-2">
        <Choice<SketchTool>
          hideLabel
          label="Drawing tool"
          value={tool}
          options={[
            { value: "select", label: "Pick and drag" },
            { value: "line", label: "Lines" },
            { value: "rectangle", label: "Rectangle" },
            { value: "circle", label: "Circle" },
          ]}
          onChange={onTool}
        />
        <p role="status" className="text-[13px] text-soft">
          {sketch.entities.length === 0
            ? "nothing drawn yet"
            : state === null
              ? "cannot be solved"
              : state.degrees === 0
                ? "nothing can move"
                : `can still move ${state.degrees} ${state.degrees === 1 ? "way" : "ways"}`}
        </p>
      </div>
      {drawing ? <Sizes key={tool} tool={tool} onFinish={onFinish} /> : null}
      {picked.length > 0 ? (
        <div className="flex flex-wrap items-center gap-1">
          <span className="num text-[13px] text-soft">{picked.join(", ")}</span>
          {rules.map(({ type, of }) => (
            <Button
              key={type}
              small
              onClick={() => {
                const edit = new SketchEdit(sketch);
                edit.hold(type, of);
                onPut(edit.parts);
              }}
            >
              {CONSTRAINT_WORDS[type]}
            </Button>
          ))}
          {sizes.map(({ type, of }) => (
            <Button
              key={type}
              small
              onClick={() => {
                const edit = new SketchEdit(sketch);
                edit.size(type, of, 0);
                const added = edit.dimensions.at(-1)!;
                edit.dimensions[edit.dimensions.length - 1] = { ...added, value: open.sizeNow(added) } as Dimension;
                onPut(edit.parts);
              }}
            >
              {DIMENSION_WORDS[type]}
            </Button>
          ))}
          <Button small tone="quiet" onClick={onTakeOut}>
            Take out
          </Button>
        </div>
      ) : null}
      {held.length > 0 ? (
        <ul aria-label="What holds it" className="flex flex-wrap items-center gap-1">
          {held.map(({ id, words }) => (
            <li key={id}>
              <Button
                small
                tone="quiet"
                aria-label={`Let go of ${words}`}
                onClick={() => {
                  const edit = new SketchEdit(sketch);
                  edit.remove([id]);
                  onPut(edit.parts);
                }}
              >
                {words} ×
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      {tool !== "select" && !drawing ? (
        <p className="text-[13px] text-soft">
          Click where it begins. Shift holds nothing while you draw; Escape lays the tool down.
        </p>
      ) : null}
      {trouble ? (
        <p role="alert" className="text-[13px] text-bad">
          {trouble}
        </p>
      ) : null}
    </section>
  );
}

/** What a rule is with, beside what is picked. */
function others(of: readonly string[], picked: readonly string[]): string {
  const rest = of.filter((id) => !picked.includes(id));
  return rest.length > 0 ? `with ${rest.join(", ")}` : "";
}

const LABELS = { width: "Width", height: "Height", length: "Length", angle: "Angle", diameter: "Diameter" } as const;

/** Exact sizes for what is being drawn: typed instead of clicked. */
function Sizes({ tool, onFinish }: { tool: SketchTool; onFinish(sizes: TypedSizes): void }) {
  const unit = useJob((state) => state.job.units);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const read = (name: keyof typeof LABELS): number | null => {
    const text = texts[name]?.trim() ?? "";
    if (text === "") return null;
    const parsed = name === "angle" ? parseAngle(text) : parseLength(text, unit);
    return parsed.ok ? (name === "angle" ? (parsed.value * 180) / Math.PI : parsed.value) : null;
  };
  const fields = TYPED[tool];
  const values = fields.map(read);
  const ready =
    values.every((value) => value !== null) && fields.every((name, i) => name === "angle" || values[i]! !== 0);
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
        <label key={name} className="flex items-center gap-1 text-[13px] text-soft">
          {LABELS[name]}
          <input
            value={texts[name] ?? ""}
            autoComplete="off"
            onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
            className="num h-7 w-24 rounded border border-line bg-sheet px-1.5 text-ink"
          />
        </label>
      ))}
      <Button small type="submit" disabled={!ready}>
        Draw it
      </Button>
      <span className="text-[13px] text-soft">or click where it ends</span>
    </form>
  );
}
