"use client";
import type { Quantity } from "@/core/params";
import { BUILT_IN, type Constraint, type Dimension, type DimensionType, type Entity } from "@/core/sketch";
import { Check } from "../controls/controls";
import { useJob, useWorkspace } from "../state/context";
import type { Problems } from "../state/open-values";
import { QuantityInput } from "./quantity-input";

const WORDS: Record<DimensionType, string> = {
  distance: "Distance",
  across: "Across",
  upright: "Upright",
  radius: "Radius",
  diameter: "Diameter",
  angle: "Angle",
  offset: "Offset",
};

const BUILT_IN_WORDS: Record<(typeof BUILT_IN)[number], string> = {
  origin: "The origin",
  "axis-x": "The X axis",
  "axis-y": "The Y axis",
};

/** The sizes that drive a sketch, each a number or a formula. */
export function SketchField({
  values,
  problems,
  onChange,
}: {
  values: Record<string, unknown>;
  problems: Problems;
  onChange(values: Record<string, unknown>): void;
}) {
  const unit = useJob((state) => state.job.units);
  const picked = useWorkspace((state) => state.sketchPicked);
  const set = useWorkspace((state) => state.set);
  const dimensions = values.dimensions as Dimension[];
  const entities = values.entities as Entity[];
  const curves = entities.filter(({ type }) => type !== "point").length;
  return (
    <fieldset aria-label="Dimensions" className="min-w-0">
      <p className="mb-1 text-[0.8125rem] text-soft">
        Dimensions <span className="num">({dimensions.length})</span>, driving <span className="num">{curves}</span>{" "}
        curves under <span className="num">{(values.constraints as Constraint[]).length}</span> constraints
      </p>
      {dimensions.length === 0 ? <p className="text-[0.8125rem] text-soft">None drive this sketch.</p> : null}
      <div className="flex flex-col gap-2">
        {dimensions.map((dimension, place) =>
          dimension.measured ? null : (
            <QuantityInput
              key={dimension.id}
              label={`${dimension.name ?? dimension.id}: ${WORDS[dimension.type].toLowerCase()} of ${dimension.of.join(", ")}`}
              kind={dimension.type === "angle" ? "angle" : "length"}
              unit={unit}
              value={dimension.value}
              problem={problems[`dimensions.${place}.value`]}
              onChange={(value: Quantity) =>
                onChange({ dimensions: dimensions.map((other, i) => (i === place ? { ...other, value } : other)) })
              }
            />
          ),
        )}
      </div>
      <details className="mt-2 rounded border border-line bg-sheet">
        <summary className="cursor-pointer px-2 py-1.5">Pick parts from a list</summary>
        <div className="max-h-44 relative overflow-auto border-t border-line px-2 py-1">
          {[
            ...BUILT_IN.map((id) => ({ id, words: BUILT_IN_WORDS[id] })),
            ...entities.map(({ id, type }) => ({ id, words: `${type} ${id}` })),
          ].map(({ id, words }) => (
            <div key={id} className="py-0.5">
              <Check
                checked={picked.includes(id)}
                onChange={() =>
                  set({ sketchPicked: picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id] })
                }
              >
                {words}
              </Check>
            </div>
          ))}
        </div>
      </details>
    </fieldset>
  );
}
