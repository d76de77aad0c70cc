"use client";
import { Plus, Trash2 } from "lucide-react";
import { namesUsed } from "@/core/job";
import type { Quantity } from "@/core/params";
import { Button, Choice, IconButton } from "../controls/controls";
import { useJob, usePart } from "../state/context";
import type { Problems } from "../state/open-values";
import { QuantityInput } from "./quantity-input";

/** A move as it is written. */
interface WrittenMove {
  id: string;
  how: "straight" | "turn";
  by: [Quantity, Quantity, Quantity];
  turn: Quantity;
  about: "x" | "y" | "z" | "face";
  through: [Quantity, Quantity, Quantity];
}

const AXES = ["X", "Y", "Z"] as const;

/** The moves of a body, one after the other. */
export function MovesField({
  name,
  label,
  value,
  problems,
  onChange,
}: {
  /** The key of the value: what its problems are listed under. */
  name: string;
  label: string;
  value: readonly WrittenMove[];
  problems: Problems;
  onChange(value: WrittenMove[]): void;
}) {
  const part = usePart();
  const change = (i: number, some: Partial<WrittenMove>) =>
    onChange(value.map((move, j) => (i === j ? { ...move, ...some } : move)));
  const add = () => {
    const last = value.at(-1);
    const used = namesUsed(part);
    let n = value.length + 1;
    while (value.some(({ id }) => id === `m${n}`) || used.has(`m${n}`)) n++;
    onChange([
      ...value,
      {
        id: `m${n}`,
        how: "straight",
        by: [0, 0, 20],
        turn: 90,
        about: last?.about ?? "z",
        through: [...(last?.through ?? [0, 0, 0])] as WrittenMove["through"],
      },
    ]);
  };
  return (
    <fieldset aria-label={label} className="min-w-0">
      <legend className="mb-1 text-[0.8125rem] text-soft">
        {label} <span className="num">({value.length})</span>
      </legend>
      <ol className="relative flex max-h-96 flex-col gap-2 overflow-auto">
        {value.map((move, i) => (
          <li key={move.id} aria-label={`Move ${i + 1}`} className="rounded border border-line bg-sheet p-2">
            <div className="mb-1 flex items-center gap-2">
              <span className="num grow text-[0.8125rem] text-soft">{i + 1}</span>
              <Choice
                small
                hideLabel
                label={`How move ${i + 1} goes`}
                value={move.how}
                options={[
                  { value: "straight", label: "Straight" },
                  { value: "turn", label: "Turn" },
                ]}
                onChange={(how) => change(i, { how })}
              />
              <IconButton
                label={`Take move ${i + 1} out`}
                className="size-6!"
                disabled={value.length === 1}
                onClick={() => onChange(value.filter((_, j) => j !== i))}
              >
                <Trash2 size={14} aria-hidden />
              </IconButton>
            </div>
            <MoveValues
              at={`${name}.${i}`}
              number={i + 1}
              move={move}
              problems={problems}
              onChange={(some) => change(i, some)}
            />
          </li>
        ))}
      </ol>
      <Button small className="mt-2" onClick={add}>
        <Plus size={14} aria-hidden />
        Add a move
      </Button>
    </fieldset>
  );
}

function MoveValues({
  at,
  number,
  move,
  problems,
  onChange,
}: {
  at: string;
  number: number;
  move: WrittenMove;
  problems: Problems;
  onChange(some: Partial<WrittenMove>): void;
}) {
  const unit = useJob((state) => state.job.units);
  const three = (key: "by" | "through", label: string) => (
    <div className="flex gap-1.5">
      {AXES.map((axis, k) => (
        <QuantityInput
          key={axis}
          hideLabel
          lead={axis}
          label={`${label} ${axis}, move ${number}`}
          kind="length"
          unit={unit}
          value={move[key][k]!}
          problem={problems[`${at}.${key}.${k}`]}
          onChange={(next) =>
            onChange({ [key]: move[key].map((old, j) => (j === k ? next : old)) } as Partial<WrittenMove>)
          }
        />
      ))}
    </div>
  );
  if (move.how === "straight") return three("by", "By");
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-end gap-1.5">
        <QuantityInput
          hideLabel
          label={`Turned by, move ${number}`}
          kind="angle"
          unit={unit}
          value={move.turn}
          problem={problems[`${at}.turn`]}
          onChange={(turn) => onChange({ turn })}
        />
        <Choice
          hideLabel
          label={`About, move ${number}`}
          value={move.about}
          options={[
            ...AXES.map((axis) => ({ value: axis.toLowerCase() as WrittenMove["about"], label: axis })),
            { value: "face" as const, label: "Face" },
          ]}
          onChange={(about) => onChange({ about })}
        />
      </div>
      {move.about === "face" ? null : (
        <>
          <span className="text-[0.8125rem] text-soft">Through the point</span>
          {three("through", "Through")}
        </>
      )}
    </div>
  );
}
