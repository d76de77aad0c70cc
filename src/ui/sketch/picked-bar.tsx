"use client";
import { type Dimension, fittingConstraints, fittingDimensions, type Sketch, SketchEdit } from "@/core/sketch";
import { Button } from "../controls/controls";
import type { OpenSketch } from "./use-sketch";
import { wordFor } from "./words";

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
  offset: "Offset",
} as const;

/** What fits what is picked, and what holds it already. */
export function PickedBar({
  open,
  picked,
  onPut,
  onTakeOut,
  onCopy,
}: {
  open: OpenSketch;
  picked: readonly string[];
  onPut(sketch: Sketch): boolean;
  onTakeOut(): void;
  onCopy(): void;
}) {
  const { sketch } = open;
  const rules = fittingConstraints(sketch, picked);
  const sizes = fittingDimensions(sketch, picked);
  const about = (of: readonly string[]) => picked.some((id) => of.includes(id));
  const own = sketch.entities.filter(({ id }) => picked.includes(id));
  const helps = own.length > 0 && own.every(({ construction }) => construction);
  const held = [
    ...sketch.constraints
      .filter(({ id, of }) => about(of) || picked.includes(id))
      .map(({ id, type, of }) => ({ id, words: `${CONSTRAINT_WORDS[type]} ${others(sketch, of, picked)}`.trim() })),
    ...sketch.dimensions
      .filter(({ id, of }) => about(of) || picked.includes(id))
      .map(({ id, type, name }) => ({ id, words: name ?? `${DIMENSION_WORDS[type]} ${id}` })),
  ];
  const change = (make: (edit: SketchEdit) => void) => {
    const edit = new SketchEdit(sketch);
    make(edit);
    onPut(edit.parts);
  };
  return (
    <>
      {picked.length > 0 ? (
        <div className="flex flex-wrap items-center gap-1">
          <span className="num max-w-40 truncate text-[0.8125rem] text-soft">
            {picked.length > 4 ? `${picked.length} parts` : picked.map((id) => wordFor(sketch, id)).join(", ")}
          </span>
          {rules.map(({ type, of }) => (
            <Button key={type} small onClick={() => change((edit) => edit.hold(type, of))}>
              {CONSTRAINT_WORDS[type]}
            </Button>
          ))}
          {sizes.map(({ type, of }) => (
            <Button
              key={type}
              small
              onClick={() =>
                change((edit) => {
                  edit.size(type, of, 0);
                  const added = edit.dimensions.at(-1)!;
                  edit.dimensions[edit.dimensions.length - 1] = { ...added, value: open.sizeNow(added) } as Dimension;
                })
              }
            >
              {DIMENSION_WORDS[type]}
            </Button>
          ))}
          {own.length > 0 ? (
            <>
              <Button small aria-pressed={helps} onClick={() => change((edit) => edit.asConstruction(picked, !helps))}>
                {helps ? "Make outline" : "Only to help"}
              </Button>
              <Button small onClick={onCopy}>
                Copy
              </Button>
              <Button small tone="quiet" onClick={onTakeOut}>
                Take out
              </Button>
            </>
          ) : null}
        </div>
      ) : null}
      {held.length > 0 && picked.length <= 4 ? (
        <ul aria-label="What holds it" className="flex flex-wrap items-center gap-1">
          {held.map(({ id, words }) => (
            <li key={id}>
              <Button
                small
                tone="quiet"
                aria-label={`Let go of ${words}`}
                onClick={() => change((edit) => edit.remove([id]))}
              >
                {words} ×
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}

/** What a rule is with, beside what is picked. */
function others(sketch: Sketch, of: readonly string[], picked: readonly string[]): string {
  const rest = of.filter((id) => !picked.includes(id)).map((id) => wordFor(sketch, id));
  return rest.length > 0 ? `with ${rest.join(", ")}` : "";
}
