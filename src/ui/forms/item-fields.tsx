"use client";
import { useShallow } from "zustand/react/shallow";
import type { FaceRef } from "@/core/naming";
import type { KeepSide } from "@/core/seam";
import type { Field } from "@/core/steps";
import type { ItemView } from "@/engine/contract";
import { Button, Check, Choice } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useWorkspace } from "../state/context";
import { toggleItem } from "../state/refs";
import { faceSideKey, OPEN_SIDES, type Sides, sideOf, sideOptions, sidesFor } from "../state/sides";
import { pickable } from "../state/workspace-store";

export function usePickable(): ItemView[] {
  return useWorkspace(useShallow((state) => pickable(state)));
}

/** Heading of a field that is filled by picking: its name, how many, and the switch for clicks in the view. */
export function PickHead({ field, count, hint }: { field: Field; count: number; hint: string }) {
  const picking = useWorkspace((state) => state.picking === field.key);
  const set = useWorkspace((state) => state.set);
  return (
    <div className="mb-1 flex items-center justify-between gap-2">
      <span className="text-[13px] text-soft">
        {field.label} <span className="num">({count})</span>
      </span>
      <Button
        small
        className="shrink-0 whitespace-nowrap"
        tone={picking ? "main" : "plain"}
        aria-pressed={picking}
        onClick={() => set({ picking: picking ? null : field.key })}
      >
        {picking ? "Picking: click in the view" : hint}
      </Button>
    </div>
  );
}

export function ItemList({
  items,
  picked,
  onToggle,
  after,
}: {
  items: ItemView[];
  picked: string[];
  onToggle(id: string): void;
  after?(item: ItemView): React.ReactNode;
}) {
  const set = useWorkspace((state) => state.set);
  const hovered = useWorkspace((state) => state.hover?.id);
  if (items.length === 0)
    return (
      <p className="rounded border border-dashed border-line p-2 text-[13px] text-soft">
        Nothing on the bench fits here yet.
      </p>
    );
  return (
    <ul className="max-h-44 divide-y divide-line relative overflow-auto rounded border border-line bg-sheet">
      {items.map((item) => (
        <li
          key={item.id}
          className={`px-2 py-1.5 ${hovered === item.id ? "bg-pick-wash" : ""}`}
          onPointerEnter={() => set({ hover: { id: item.id, face: null } })}
          onPointerLeave={() => set({ hover: null })}
        >
          <Check checked={picked.includes(item.id)} onChange={() => onToggle(item.id)}>
            <Mark name={item.kind} className="mr-1.5 inline align-[-3px]" />
            {item.name}
          </Check>
          {picked.includes(item.id) ? after?.(item) : null}
        </li>
      ))}
    </ul>
  );
}

export function BodiesField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { kind: "bodies" }>;
  value: string[];
  onChange(value: string[]): void;
}) {
  const items = usePickable().filter((item) => field.accepts.includes(item.kind));
  const toggle = (id: string) => onChange(toggleItem(value, id, field.max));
  const picked = expand(value, items);
  return (
    <fieldset aria-label={field.label} className="min-w-0">
      <PickHead field={field} count={picked.length} hint="Pick in the view" />
      <ItemList items={items} picked={picked} onToggle={toggle} />
    </fieldset>
  );
}

/** References that stand for all that a step made, as the items that they mean. */
function expand(refs: string[], items: ItemView[]): string[] {
  return items.filter((item) => refs.includes(item.id) || refs.includes(item.step)).map((item) => item.id);
}

/** Cutters with, for a trim, the side of each that stays. */
export function CuttersField({
  field,
  preset,
  stock,
  value,
  keepSide,
  faces,
  onChange,
}: {
  field: Field;
  preset: string;
  stock: string[];
  value: string[];
  keepSide: Sides;
  /** Single faces that cut, too. */
  faces: readonly FaceRef[];
  onChange(values: { cutters?: string[]; keepSide?: Record<string, KeepSide> }): void;
}) {
  const all = usePickable();
  const taken = expand(stock, all);
  const items = all.filter((item) => !taken.includes(item.id) && (preset !== "subtract" || item.kind === "solid"));
  const picked = expand(value, items);
  const toggle = (id: string) => {
    const cutters = picked.includes(id) ? picked.filter((other) => other !== id) : [...picked, id];
    const still = items.filter((item) => cutters.includes(item.id));
    onChange({ cutters, keepSide: sidesFor(keepSide, still, faces) });
  };
  return (
    <fieldset aria-label={field.label} className="min-w-0">
      <PickHead field={field} count={picked.length} hint="Pick in the view" />
      <ItemList
        items={items}
        picked={picked}
        onToggle={toggle}
        after={(item) =>
          preset === "trim" ? (
            <div className="mt-1 pl-6">
              <Choice<KeepSide>
                small
                hideLabel
                label={`Side of ${item.name} that stays`}
                value={sideOf(keepSide, item)}
                options={sideOptions(item)}
                onChange={(side) =>
                  onChange({
                    keepSide: {
                      ...sidesFor(
                        keepSide,
                        items.filter((other) => picked.includes(other.id)),
                        faces,
                      ),
                      [item.id]: side,
                    },
                    cutters: picked,
                  })
                }
              />
            </div>
          ) : null
        }
      />
      {preset === "trim"
        ? faces.map((ref, i) => (
            <Choice<KeepSide>
              key={faceSideKey(ref)}
              small
              label={`Side of cutting face ${i + 1} that stays`}
              value={keepSide[faceSideKey(ref)] ?? "front"}
              options={OPEN_SIDES}
              onChange={(side) => onChange({ keepSide: { ...keepSide, [faceSideKey(ref)]: side } })}
            />
          ))
        : null}
    </fieldset>
  );
}
