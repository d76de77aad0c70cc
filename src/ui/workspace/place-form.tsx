"use client";
import { useEffect, useState } from "react";
import { type Part, placeEdits, type Stand, scopeOf } from "@/core/job";
import { type Quantity, resolveQuantities } from "@/core/params";
import { PLAIN_PLACE, type Place, placeSchema } from "@/core/place";
import { isBodyView } from "@/engine/contract";
import { Button, Choice } from "../controls/controls";
import { QuantityInput } from "../forms/quantity-input";
import { AboutPart, useJob, useWorkspace } from "../state/context";
import { beginPutting } from "../state/putting";
import { RenameBox } from "./rename-box";

const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;
type Axis = keyof typeof AXES | "other";

/** By which of the axes a direction goes; another where it is along none. */
const axisOf = (axis: Place["axis"]): Axis =>
  (["x", "y", "z"] as const).find((name) => AXES[name].every((value, k) => value === axis[k])) ?? "other";

/** Where a part stands, by numbers and formulas; and what else can be done with where it stands. */
export function PlaceForm({ part, stand }: { part: Part; stand: Stand }) {
  const edit = useJob((state) => state.edit);
  const unit = useJob((state) => state.job.units);
  const parameters = useJob((state) => state.job.parameters);
  const set = useWorkspace((state) => state.set);
  const items = useWorkspace((state) =>
    part.id === state.part ? state.evaluation?.items : state.others.get(part.id)?.items,
  );
  const kept = (stand.at === "" ? part.places[0] : part.places.find(({ id }) => id === stand.at)) ?? null;
  const [values, setValues] = useState<Omit<Place, "id">>(kept ?? PLAIN_PLACE);
  const [renaming, setRenaming] = useState(false);
  useEffect(() => setValues(kept ?? PLAIN_PLACE), [kept]);
  const { problems } = resolveQuantities(placeSchema, values as Place, scopeOf({ parameters }, part));
  const put = (next: Partial<Omit<Place, "id">>) =>
    edit(`Stand ${stand.name} elsewhere`, (draft) => placeEdits.setPlace(draft, part.id, stand.at, next));
  // What is typed joins the job when the box is left, not with each key.
  const keep = () => {
    const before = kept ?? PLAIN_PLACE;
    if (
      Object.keys(problems).length > 0 ||
      JSON.stringify([values.by, values.turn, values.axis]) === JSON.stringify([before.by, before.turn, before.axis])
    )
      return;
    put({ by: values.by, turn: values.turn, axis: values.axis });
  };
  const setBy = (k: number) => (value: Quantity) =>
    setValues({ ...values, by: values.by.map((old, i) => (i === k ? value : old)) as Place["by"] });
  const axis = axisOf(values.axis);
  return (
    <AboutPart value={part.id}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: the boxes within are what is worked with. */}
      <div
        className="flex flex-col gap-2.5 px-3 pt-1 pb-3"
        onBlur={(event) => event.target instanceof HTMLInputElement && keep()}
        onKeyDown={(event) => event.key === "Enter" && keep()}
      >
        <fieldset className="min-w-0">
          <legend className="mb-1 text-[0.8125rem] text-soft">Moved by</legend>
          <div className="flex gap-1.5">
            {(["X", "Y", "Z"] as const).map((name, k) => (
              <QuantityInput
                key={name}
                hideLabel
                lead={name}
                label={`Moved by ${name}`}
                kind="length"
                unit={unit}
                value={values.by[k]!}
                problem={problems[`by.${k}`]}
                onChange={setBy(k)}
              />
            ))}
          </div>
        </fieldset>
        <div className="flex items-end gap-2">
          <QuantityInput
            label="Turned by"
            kind="angle"
            unit={unit}
            value={values.turn}
            problem={problems.turn}
            onChange={(turn) => setValues({ ...values, turn })}
          />
          <Choice<Axis>
            label="About"
            value={axis}
            options={[
              { value: "x", label: "X" },
              { value: "y", label: "Y" },
              { value: "z", label: "Z" },
              ...(axis === "other" ? [{ value: "other" as const, label: "Own" }] : []),
            ]}
            onChange={(next) => next !== "other" && put({ axis: [...AXES[next]] })}
          />
        </div>
        {axis === "other" ? (
          <p className="num text-[0.8125rem] text-soft">
            About the direction {values.axis.map((value) => Number(value.toFixed(4))).join(", ")}
          </p>
        ) : null}
        <Choice
          label="Mirrored across its own plane square to"
          value={values.mirror}
          options={[
            { value: "none", label: "None" },
            { value: "x", label: "X" },
            { value: "y", label: "Y" },
            { value: "z", label: "Z" },
          ]}
          onChange={(mirror) => put({ mirror })}
        />
        {renaming ? (
          <RenameBox
            value={kept?.name ?? ""}
            placeholder={stand.name}
            onDone={(name) => {
              setRenaming(false);
              if (name !== null) put({ name: name.trim() });
            }}
          />
        ) : null}
        <div className="flex flex-wrap gap-1.5">
          <Button small onClick={() => set({ putting: beginPutting({ part: part.id, at: stand.at }) })}>
            Put by faces
          </Button>
          <Button small onClick={() => copy("none")}>
            Add a copy
          </Button>
          <Button small onClick={() => copy("x")}>
            Add its other hand
          </Button>
          {stand.at === "" ? (
            <Button
              small
              disabled={kept === null}
              onClick={() => put({ by: [0, 0, 0], turn: 0, axis: [0, 0, 1], mirror: "none" })}
            >
              As it is drawn
            </Button>
          ) : (
            <>
              <Button small onClick={() => setRenaming(true)}>
                Rename
              </Button>
              <Button small onClick={own}>
                Make it a part of its own
              </Button>
              <Button
                small
                onClick={() => edit(`Remove ${stand.name}`, (draft) => placeEdits.removeCopy(draft, part.id, stand.at))}
              >
                Remove
              </Button>
            </>
          )}
        </div>
      </div>
    </AboutPart>
  );

  /** Stands it once more, beside itself: as far off as it is wide. */
  function copy(mirror: Place["mirror"]): void {
    const boxes = (items ?? []).flatMap((item) => (isBodyView(item) ? (item.measures.box ?? []) : []));
    const wide =
      boxes.length > 0 ? Math.max(...boxes.map(({ max }) => max[0])) - Math.min(...boxes.map(({ min }) => min[0])) : 50;
    const from = kept ?? PLAIN_PLACE;
    const [x, y, z] = from.by;
    const step = Math.ceil(wide * 1.2);
    const beside: Quantity = typeof x === "number" ? x + step : `${x} + ${step} mm`;
    const { mirror: was } = from;
    edit(mirror === "none" ? `Add a copy of ${part.name}` : `Add the other hand of ${part.name}`, (draft) => {
      placeEdits.addCopy(draft, part.id, {
        by: [beside, y, z],
        turn: from.turn,
        axis: [...from.axis],
        mirror: mirror === "none" ? was : was === "none" ? mirror : "none",
      });
    });
  }

  function own(): void {
    const bodies = (items ?? []).filter(isBodyView).map((item) => item.id);
    edit(`Make ${stand.name} a part of its own`, (draft) => {
      placeEdits.makeOwn(draft, part.id, stand.at, stand.name, bodies);
    });
    set({ selected: null });
  }
}
