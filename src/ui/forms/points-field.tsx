"use client";
import { Plus, Trash2 } from "lucide-react";
import { namesUsed } from "@/core/job";
import { isFormula, type Quantity } from "@/core/params";
import { Button, Choice, IconButton } from "../controls/controls";
import { useJob, usePart } from "../state/context";
import type { Problems } from "../state/open-values";
import { QuantityInput } from "./quantity-input";

/** A point of a curve as it is written. */
interface Point {
  id: string;
  at: [Quantity, Quantity, Quantity];
  by: "line" | "spline";
}

/** The points that a curve goes through, in order: where each is, and how the curve goes on from it. */
export function PointsField({
  name,
  label,
  value,
  closed,
  problems,
  onChange,
}: {
  /** The key of the value: what its problems are listed under. */
  name: string;
  label: string;
  value: readonly Point[];
  closed: boolean;
  problems: Problems;
  onChange(value: Point[]): void;
}) {
  const part = usePart();
  const unit = useJob((state) => state.job.units);
  const change = (i: number, part: Partial<Point>) =>
    onChange(value.map((point, j) => (i === j ? { ...point, ...part } : point)));
  const add = () => {
    const [before, last] = [value.at(-2), value.at(-1)];
    const at = last ? last.at.map((value, k) => onwards(before?.at[k], value)) : [0, 0, 0];
    onChange([...value, { id: freeId(value, namesUsed(part)), at: at as Point["at"], by: last?.by ?? "line" }]);
  };
  return (
    <fieldset aria-label={label} className="min-w-0">
      <legend className="mb-1 text-[0.8125rem] text-soft">
        {label} <span className="num">({value.length})</span>
      </legend>
      <ol className="relative flex max-h-96 flex-col gap-2 overflow-auto">
        {value.map((point, i) => (
          <li key={point.id} aria-label={`Point ${i + 1}`} className="rounded border border-line bg-sheet p-2">
            <div className="mb-1 flex h-6 items-center gap-2 text-[0.8125rem] text-soft">
              <span className="grow">
                Point <span className="num">{i + 1}</span>
              </span>
              {i < value.length - 1 || closed ? (
                <>
                  <span aria-hidden>{i < value.length - 1 ? "on by" : "back by"}</span>
                  <Choice
                    small
                    hideLabel
                    label={`From point ${i + 1} to the ${i < value.length - 1 ? "next" : "first"}`}
                    value={point.by}
                    options={[
                      { value: "line", label: "line" },
                      { value: "spline", label: "spline" },
                    ]}
                    onChange={(by) => change(i, { by })}
                  />
                </>
              ) : null}
              <IconButton
                label={`Take out point ${i + 1}`}
                className="size-6!"
                onClick={() => onChange(value.filter((_, j) => j !== i))}
              >
                <Trash2 size={14} aria-hidden />
              </IconButton>
            </div>
            <div className={`flex gap-1.5 ${point.at.some((entry) => isFormula(entry)) ? "flex-col" : ""}`}>
              {(["X", "Y", "Z"] as const).map((lead, axis) => (
                <QuantityInput
                  key={lead}
                  hideLabel
                  lead={lead}
                  label={`Point ${i + 1} ${lead}`}
                  kind="length"
                  unit={unit}
                  value={point.at[axis]!}
                  problem={problems[`${name}.${i}.at.${axis}`]}
                  onChange={(next) =>
                    change(i, { at: point.at.map((old, k) => (k === axis ? next : old)) as Point["at"] })
                  }
                />
              ))}
            </div>
          </li>
        ))}
      </ol>
      <Button small className="mt-1.5" onClick={add}>
        <Plus size={14} aria-hidden className="mr-1 inline" /> Add a point
      </Button>
    </fieldset>
  );
}

/** As far on again as the last point is from the one before, where both are plain numbers. */
function onwards(before: Quantity | undefined, last: Quantity): Quantity {
  return typeof before === "number" && typeof last === "number" ? 2 * last - before : last;
}

/** An id that no point has, and that nothing of the part names any more. */
function freeId(points: readonly Point[], used: ReadonlySet<string>): string {
  const taken = new Set([...points.map(({ id }) => id), ...used]);
  let n = points.length + 1;
  while (taken.has(`p${n}`)) n++;
  return `p${n}`;
}
