"use client";
import { Palette } from "lucide-react";
import { Popover } from "radix-ui";
import { useId, useState } from "react";
import { BODY_COLOURS, type Look, lookEdits, materialSchema, STANDARD_MATERIALS } from "@/core/job";
import { type BodyView, isBodyView } from "@/engine/contract";
import { Button, Toggle } from "../controls/controls";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { groupOf, lookOf } from "../state/looks";
import { BODY_HEX } from "../viewport/palette";
import { useTheme } from "./theme";

/** How a body looks, what it is of, and which group it is in. What is chosen is done at once. */
export function LooksPopover({ body }: { body: BodyView }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`Colour, material and group of ${body.name}`}
        className="inline-flex size-6 shrink-0 items-center justify-center rounded text-ink hover:bg-well"
      >
        <Palette size={15} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="z-50 flex w-72 flex-col gap-3 rounded border border-line bg-sheet p-3 shadow-lg"
        >
          <h2 className="truncate font-semibold">{body.name}</h2>
          <Looks body={body} />
          <Popover.Close className="sr-only">Close</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Looks({ body }: { body: BodyView }) {
  const { job } = useStores();
  const part = usePart();
  const { dark } = useTheme();
  const look = lookOf(part, body);
  const edit = (label: string, change: Partial<Look>) =>
    job.store.getState().editPart(part.id, label, (draft) => lookEdits.setLook(draft, body, { ...look, ...change }));
  return (
    <>
      <fieldset>
        <legend className="mb-1 text-[0.8125rem] text-soft">Colour</legend>
        <div className="grid grid-cols-3 gap-1">
          {[undefined, ...BODY_COLOURS].map((colour) => (
            <button
              key={colour ?? "plain"}
              type="button"
              aria-pressed={look.colour === colour}
              onClick={() => edit(`Colour ${body.name}`, { colour })}
              className="flex items-center gap-1.5 rounded border border-line px-1.5 py-1 text-[0.8125rem] hover:bg-well aria-pressed:border-ink aria-pressed:bg-well aria-pressed:font-semibold"
            >
              <span
                aria-hidden
                className="size-3.5 shrink-0 rounded-sm border border-rule"
                style={{ background: colour ? BODY_HEX[dark ? "dark" : "light"][colour] : "transparent" }}
              />
              {colour ?? "plain"}
            </button>
          ))}
        </div>
      </fieldset>
      <MaterialChoice value={look.material} onChange={(material) => edit(`Material of ${body.name}`, { material })} />
      <Toggle
        label="Seen through"
        value={look.clear === true}
        onChange={(clear) => edit(`${clear ? "See" : "No longer see"} through ${body.name}`, { clear })}
      />
      <GroupChoice body={body} />
    </>
  );
}

function MaterialChoice({ value, onChange }: { value: string | undefined; onChange(name: string | undefined): void }) {
  const { job } = useStores();
  const own = useJob((state) => state.job.materials);
  const [adding, setAdding] = useState(false);
  const [name, setName] = useState("");
  const [density, setDensity] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const id = useId();
  const add = () => {
    const made = materialSchema.safeParse({ name, density: Number(density.replace(",", ".")) });
    if (!made.success) return setTrouble("Give a name, and a density between 0 and 30 g/cm³.");
    job.store.getState().edit(`Add the material ${made.data.name}`, (draft) => {
      draft.materials = [...draft.materials.filter((other) => other.name !== made.data.name), made.data];
    });
    onChange(made.data.name);
    setAdding(false);
    setTrouble(null);
  };
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
        Material
      </label>
      <select
        id={id}
        value={adding ? "+" : (value ?? "")}
        onChange={(event) => {
          const chosen = event.target.value;
          setAdding(chosen === "+");
          if (chosen !== "+") onChange(chosen === "" ? undefined : chosen);
        }}
        className="h-8 w-full rounded border border-line bg-sheet px-2"
      >
        <option value="">none</option>
        {own.length > 0 ? (
          <optgroup label="Of this job">
            {own.map((material) => (
              <option key={material.name} value={material.name}>
                {material.name}, {material.density} g/cm³
              </option>
            ))}
          </optgroup>
        ) : null}
        <optgroup label="At hand">
          {STANDARD_MATERIALS.map((material) => (
            <option key={material.name} value={material.name}>
              {material.name}, {material.density} g/cm³
            </option>
          ))}
        </optgroup>
        <option value="+">Another …</option>
      </select>
      {adding ? (
        <div className="mt-1.5 flex gap-1.5">
          <input
            aria-label="Name of the material"
            placeholder="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="h-8 min-w-0 grow rounded border border-line bg-sheet px-2"
          />
          <input
            aria-label="Density, g/cm³"
            placeholder="g/cm³"
            inputMode="decimal"
            value={density}
            onChange={(event) => setDensity(event.target.value)}
            className="num h-8 w-16 rounded border border-line bg-sheet px-2"
          />
          <Button onClick={add}>Add</Button>
        </div>
      ) : null}
      {trouble && adding ? (
        <p role="alert" className="mt-1 text-[0.8125rem] text-bad">
          {trouble}
        </p>
      ) : null}
    </div>
  );
}

function GroupChoice({ body }: { body: BodyView }) {
  const { job } = useStores();
  const part = usePart();
  const now = groupOf(part, body) ?? "";
  const [name, setName] = useState(now);
  const id = useId();
  const items = useWorkspace((state) => state.evaluation?.items);
  const others = items?.filter(isBodyView).filter((other) => other.id !== body.id) ?? [];
  const put = () => {
    if (name.trim() === now) return;
    job.store
      .getState()
      .editPart(
        part.id,
        name.trim() ? `Put ${body.name} into ${name.trim()}` : `Take ${body.name} out of ${now}`,
        (draft) => lookEdits.setGroup(draft, body, others, name),
      );
  };
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.8125rem] text-soft">
        Group
      </label>
      <input
        id={id}
        list={`${id}-groups`}
        value={name}
        maxLength={120}
        placeholder="none"
        onChange={(event) => setName(event.target.value)}
        onBlur={put}
        onKeyDown={(event) => event.key === "Enter" && put()}
        className="h-8 w-full rounded border border-line bg-sheet px-2"
      />
      <datalist id={`${id}-groups`}>
        {part.groups.map((group) => (
          <option key={group.name} value={group.name} />
        ))}
      </datalist>
    </div>
  );
}
