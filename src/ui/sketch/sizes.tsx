"use client";
import { useRef, useState } from "react";
import { isFormula, type Quantity } from "@/core/params";
import { curvesOf, type Dimension, pointAt, type Sketch, type Vec2 } from "@/core/sketch";
import { Button } from "../controls/controls";
import { QuantityInput } from "../forms/quantity-input";
import { formatLength } from "../settings/format";
import { useJob } from "../state/context";
import type { PlaneMap } from "./plane-map";
import { sizeMark } from "./size-marks";
import type { OpenSketch } from "./use-sketch";

/** Pixels between what is measured and its size, unless it was moved. */
const GAP = 30;
/** How many rows a size tries to stand clear in. */
const ROWS = 6;

/** The sizes of a drawing, drawn on it: a click opens one, a drag moves it. */
export function SizesOnDrawing({
  open,
  sketch,
  map,
  live,
  culprits,
  onPut,
}: {
  open: OpenSketch;
  /** The drawing as it stands now, while it is dragged too. */
  sketch: Sketch;
  map: PlaneMap;
  /** Whether they can be opened and moved now. */
  live: boolean;
  /** Dimensions that contradict something, by id. */
  culprits: ReadonlySet<string>;
  onPut(sketch: Sketch): boolean;
}) {
  const unit = useJob((state) => state.job.units);
  const [opened, setOpened] = useState<string | null>(null);
  const [moved, setMoved] = useState<{ id: string; at: Vec2 } | null>(null);
  const press = useRef<{ id: string; x: number; y: number } | null>(null);
  const inside = middleOf(sketch);
  const put = (id: string, values: Partial<Dimension>) =>
    onPut({
      ...open.sketch,
      dimensions: open.sketch.dimensions.map((one) => (one.id === id ? ({ ...one, ...values } as Dimension) : one)),
    });
  const placed: Rect[] = [];
  const marks = sketch.dimensions.flatMap((dimension) => {
    const words = wordsOf(dimension, open, unit);
    const at = moved?.id === dimension.id ? ([...moved.at] as [number, number]) : dimension.at;
    const size = at ? { ...dimension, at } : dimension;
    // One that was never moved keeps clear of those that stand there already.
    for (let row = 0; row < ROWS; row++) {
      const mark = sizeMark(size, sketch, (GAP * (1 + 0.75 * row)) / map.scale, inside);
      if (!mark) return [];
      const rect = rectAround(map.toPixel(mark.text), words.short.length);
      if (!at && row < ROWS - 1 && placed.some((other) => overlap(rect, other))) continue;
      placed.push(rect);
      return [{ dimension, mark, words }];
    }
    return [];
  });
  return (
    <>
      <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
        {marks.map(({ dimension: { id }, mark }) => {
          const colour = culprits.has(id) ? "var(--bad)" : "var(--soft)";
          const along = mark.along.map(map.toPixel);
          return (
            <g key={id} data-size-of={id} stroke={colour} fill="none" strokeWidth={1}>
              {mark.thin.map(([a, b], i) => (
                <path key={i} d={pathOf([a, b].map(map.toPixel))} strokeWidth={0.8} opacity={0.75} />
              ))}
              <path d={pathOf(along)} />
              <path d={tick(along.at(-1)!, along.at(-2)!)} strokeWidth={2} />
              {mark.arrows === "both" ? <path d={tick(along[0]!, along[1]!)} strokeWidth={2} /> : null}
            </g>
          );
        })}
      </svg>
      {marks.map(({ dimension, mark, words }) => {
        const { id } = dimension;
        const [x, y] = map.toPixel(mark.text);
        return (
          <div
            key={id}
            className="group absolute z-[5] -translate-x-1/2 hover:z-[6] focus-within:z-[6] -translate-y-1/2"
            style={{ left: x, top: y }}
          >
            <button
              type="button"
              aria-label={`Size ${dimension.name ?? id}: ${words.full}`}
              aria-expanded={opened === id}
              className={`num rounded-sm border px-1 text-[0.8125rem] leading-5 ${live ? "cursor-pointer" : "pointer-events-none"} ${culprits.has(id) ? "border-bad bg-sheet text-bad" : "border-transparent bg-sheet/85 text-ink hover:border-pick"} ${dimension.measured ? "italic" : ""}`}
              onPointerDown={(event) => {
                press.current = { id, x: event.clientX, y: event.clientY };
                event.currentTarget.setPointerCapture(event.pointerId);
              }}
              onPointerMove={(event) => {
                const from = press.current;
                if (!from || Math.hypot(event.clientX - from.x, event.clientY - from.y) < 4) return;
                const home = event.currentTarget.parentElement!.parentElement!.getBoundingClientRect();
                setMoved({ id, at: map.toPlane([event.clientX - home.left, event.clientY - home.top]) });
              }}
              onPointerUp={() => {
                press.current = null;
                if (moved?.id !== id) return;
                put(id, { at: [...moved.at] });
                setMoved(null);
              }}
              onClick={() => moved === null && setOpened(opened === id ? null : id)}
            >
              <span className={words.full === words.short ? "" : "group-focus-within:hidden group-hover:hidden"}>
                {words.short}
              </span>
              {words.full === words.short ? null : (
                <span className="hidden whitespace-nowrap group-focus-within:inline group-hover:inline">
                  {words.full}
                </span>
              )}
            </button>
            {opened === id ? (
              <form
                aria-label={`Change size ${dimension.name ?? id}`}
                className="absolute top-7 left-0 z-20 flex w-56 flex-col gap-2 rounded border border-line bg-sheet p-2 shadow-lg"
                onSubmit={(event) => {
                  event.preventDefault();
                  setOpened(null);
                }}
                onKeyDown={(event) => {
                  if (event.key !== "Escape") return;
                  event.stopPropagation();
                  setOpened(null);
                }}
              >
                {dimension.measured ? null : (
                  <QuantityInput
                    label={dimension.name ?? id}
                    kind={dimension.type === "angle" ? "angle" : "length"}
                    unit={unit}
                    value={dimension.value}
                    problem={open.problemOf(dimension) ?? undefined}
                    onChange={(value: Quantity) => open.putValue(id, value)}
                  />
                )}
                <div className="flex flex-wrap gap-1">
                  <Button
                    small
                    onClick={() =>
                      put(
                        id,
                        dimension.measured
                          ? { measured: false, value: open.sizeNow(dimension) }
                          : { measured: true, value: Math.abs(open.sizeNow(dimension)), side: undefined },
                      )
                    }
                  >
                    {dimension.measured ? "Let it drive" : "Only measure"}
                  </Button>
                  <Button small type="submit">
                    Done
                  </Button>
                </div>
              </form>
            ) : null}
          </div>
        );
      })}
    </>
  );
}

/**
 * What stands at a size: its value, with = before it when a formula drives it and in brackets when it only measures; and
 * in full, with the formula.
 */
function wordsOf(dimension: Dimension, open: OpenSketch, unit: "mm" | "inch"): { short: string; full: string } {
  const { type } = dimension;
  const kind = type === "angle" ? "angle" : "length";
  const size = open.sizeNow(dimension);
  // A drawing says once what its numbers count: millimetres stand without their unit.
  const length = formatLength(size, unit).replace(/ mm$/, "");
  const text = kind === "angle" ? `${Math.round(size * 100) / 100}°` : length;
  const signed = type === "diameter" ? `⌀ ${text}` : type === "radius" ? `R ${text}` : text;
  if (dimension.measured) return { short: `(${signed})`, full: `(${signed})` };
  if (!isFormula(dimension.value, kind)) return { short: signed, full: signed };
  return { short: `= ${signed}`, full: `${dimension.value} = ${signed}` };
}

/** A rectangle on the canvas, pixels. */
interface Rect {
  x: number;
  y: number;
  width: number;
}
const LINE = 22;

const rectAround = ([x, y]: Vec2, letters: number): Rect => ({ x, y, width: letters * 8 + 12 });

const overlap = (a: Rect, b: Rect): boolean =>
  Math.abs(a.y - b.y) < LINE && Math.abs(a.x - b.x) < (a.width + b.width) / 2;

function middleOf({ entities }: Sketch): Vec2 {
  const points = curvesOf(entities, true).flatMap((curve) => [0, 0.5, 1].map((t) => pointAt(curve, t)));
  if (points.length === 0) return [0, 0];
  const middle = (k: 0 | 1) => {
    const values = points.map((point) => point[k]);
    return (Math.min(...values) + Math.max(...values)) / 2;
  };
  return [middle(0), middle(1)];
}

const pathOf = (points: readonly Vec2[]): string =>
  points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");

/** The slanting stroke that a workshop drawing ends a size with. */
function tick([x, y]: Vec2, [fx, fy]: Vec2): string {
  const size = Math.hypot(x - fx, y - fy) || 1;
  const [ux, uy] = [(x - fx) / size, (y - fy) / size];
  const [dx, dy] = [(ux - uy) * 4, (uy + ux) * 4];
  return `M${x - dx} ${y - dy}L${x + dx} ${y + dy}`;
}
