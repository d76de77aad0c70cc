"use client";
import { memo, type ReactNode, useCallback, useRef } from "react";
import { useShallow } from "zustand/react/shallow";
import { has, hasAny } from "@/core/items/kinds";
import type { FaceRef } from "@/core/references";
import type { KeepSide } from "@/core/seam";
import type { Field } from "@/core/steps";
import type { ItemView } from "@/engine/contract";
import { Button, Check, Choice } from "../controls/controls";
import { Mark } from "../marks/marks";
import { useFound, usePart, useWorkspace } from "../state/context";
import { meant, toggleItem, unmeant } from "../state/refs";
import { faceSideKey, OPEN_SIDES, type Sides, sideOf, sideOptions, sidesFor } from "../state/sides";
import { stepTitle } from "../state/step-title";
import { benchKnown, pickable } from "../state/workspace-store";
import { NewPlane } from "./new-plane";

/** The sides that stay of cutters which are not there now. */
const sidesOf = (sides: Sides, refs: readonly string[]): Sides =>
  Object.fromEntries(
    Object.entries(sides).filter(([key]) => refs.some((ref) => key === ref || key.startsWith(`${ref}:`))),
  );

/** Whether it is known what lies on the bench before the open step. */
export const useBenchKnown = (): boolean => useWorkspace(benchKnown);

export function usePickable(): ItemView[] {
  return useWorkspace(useShallow((state) => pickable(state)));
}

/** Heading of a field that is filled by picking: its name, how many, and the switch for clicks in the view. */
export function PickHead({ field, count, hint }: { field: Field; count: number; hint: string }) {
  const picking = useWorkspace((state) => state.picking === field.key);
  const set = useWorkspace((state) => state.set);
  return (
    <div className="mb-1 flex items-center justify-between gap-2">
      <span className="text-[0.8125rem] text-soft">
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
  after?(item: ItemView): ReactNode;
}) {
  // The same for as long as the list is there, so that a row is drawn anew only for what it shows.
  const toggling = useRef(onToggle);
  toggling.current = onToggle;
  const toggle = useCallback((id: string) => toggling.current(id), []);
  if (items.length === 0)
    return (
      <p className="rounded border border-dashed border-line p-2 text-[0.8125rem] text-soft">
        Nothing on the bench fits here yet.
      </p>
    );
  return (
    <ul className="max-h-44 divide-y divide-line relative overflow-auto rounded border border-line bg-sheet">
      {items.map((item) => {
        const ticked = picked.includes(item.id);
        return (
          <ItemRow
            key={item.id}
            id={item.id}
            kind={item.kind}
            name={item.name}
            ticked={ticked}
            onToggle={toggle}
            after={ticked ? after?.(item) : null}
          />
        );
      })}
    </ul>
  );
}

const ItemRow = memo(function ItemRow({
  id,
  kind,
  name,
  ticked,
  onToggle,
  after,
}: Pick<ItemView, "id" | "kind" | "name"> & { ticked: boolean; onToggle(id: string): void; after: ReactNode }) {
  const set = useWorkspace((state) => state.set);
  const hovered = useWorkspace((state) => state.hover?.id === id);
  return (
    <li
      className={`px-2 py-1.5 ${hovered ? "bg-pick-wash" : ""}`}
      onPointerEnter={() => set({ hover: { id, face: null } })}
      onPointerLeave={() => set({ hover: null })}
    >
      <Check checked={ticked} onChange={() => onToggle(id)}>
        <Mark name={kind} className="mr-1.5 inline align-[-3px]" />
        {name}
      </Check>
      {after}
    </li>
  );
});

export function BodiesField({
  field,
  value: stored,
  onChange,
}: {
  field: Extract<Field, { kind: "bodies" }>;
  value: string[];
  onChange(value: string[]): void;
}) {
  const known = useBenchKnown();
  const items = usePickable().filter((item) => hasAny(item, field.accepts));
  const value = useFound().items(stored);
  const toggle = (id: string) => onChange(toggleItem(value, id, items, field.max));
  const picked = meant(value, items);
  const lost = unmeant(value, items);
  if (!known) return <StoredItems field={field} value={value} />;
  return (
    <fieldset aria-label={field.label} className="min-w-0">
      <PickHead field={field} count={picked.length + lost.length} hint="Pick in the view" />
      <ItemList items={items} picked={picked} onToggle={toggle} />
      <LostItems refs={lost} onRemove={(ref) => onChange(value.filter((other) => other !== ref))} />
    </fieldset>
  );
}

/** What a field holds while it is not known yet what lies on the bench: to be read, not to be changed. */
function StoredItems({ field, value }: { field: Field; value: readonly string[] }) {
  return (
    <fieldset aria-label={field.label} aria-busy className="min-w-0">
      <p className="mb-1 text-[0.8125rem] text-soft">
        {field.label} <span className="num">({value.length})</span>
      </p>
      <ul className="rounded border border-line bg-sheet">
        {value.map((ref) => (
          <li key={ref} className="truncate px-2 py-1.5">
            <Names of={ref} />
          </li>
        ))}
        <li className="px-2 py-1.5 text-[0.8125rem] text-soft">Waiting for what lies on the bench before this step…</li>
      </ul>
    </fieldset>
  );
}

/** Items of another bench to be ticked, and references that mean none of them. */
export function ItemChecks({
  items,
  picked,
  lost,
  onToggle,
  onRemove,
}: {
  items: readonly Pick<ItemView, "id" | "kind" | "name">[];
  picked: readonly string[];
  lost: readonly string[];
  onToggle(id: string): void;
  onRemove(ref: string): void;
}) {
  return (
    <>
      {items.length === 0 ? (
        <p className="rounded border border-dashed border-line p-2 text-[0.8125rem] text-soft">
          Nothing lies on its bench yet.
        </p>
      ) : (
        <ul className="relative max-h-56 divide-y divide-line overflow-auto rounded border border-line bg-sheet">
          {items.map((item) => (
            <li key={item.id} className="px-2 py-1.5">
              <Check checked={picked.includes(item.id)} onChange={() => onToggle(item.id)}>
                <Mark name={item.kind} className="mr-1.5 inline align-[-3px]" />
                {item.name}
              </Check>
            </li>
          ))}
        </ul>
      )}
      <LostItems refs={lost} onRemove={onRemove} />
    </>
  );
}

/** References to what is not there now: they stay until they are taken out. */
function LostItems({ refs, onRemove }: { refs: readonly string[]; onRemove(ref: string): void }) {
  if (refs.length === 0) return null;
  return (
    <ul aria-label="Not there now" className="mt-1 divide-y divide-line rounded border border-warn bg-sheet">
      {refs.map((ref) => (
        <li key={ref} className="flex items-center justify-between gap-2 px-2 py-1">
          <span className="min-w-0 truncate">
            <Names of={ref} /> <span className="text-[0.8125rem] text-soft">is not there now</span>
          </span>
          <Button small tone="quiet" aria-label="Take it out" onClick={() => onRemove(ref)}>
            Take out
          </Button>
        </li>
      ))}
    </ul>
  );
}

/** What a reference is called: the item's name where it is known, else that of the step that makes it. */
function Names({ of: ref }: { of: string }) {
  const name = useWorkspace(
    ({ evaluation }) =>
      [...(evaluation?.before ?? []), ...(evaluation?.items ?? [])].find((item) => item.id === ref)?.name,
  );
  const part = usePart();
  const step = part.steps.find(({ id }) => id === ref.split(":")[0]);
  return <>{name ?? part.names[ref] ?? (step ? stepTitle(step) : ref)}</>;
}

/** Cutters with, for a trim, the side of each that stays. */
export function CuttersField({
  field,
  preset,
  stock,
  value: stored,
  keepSide,
  mutual,
  faces,
  onChange,
}: {
  field: Field;
  preset: string;
  stock: string[];
  value: string[];
  keepSide: Sides;
  /** Whether the stock cuts, too. */
  mutual: boolean;
  /** Single faces that cut, too. */
  faces: readonly FaceRef[];
  onChange(values: { cutters?: string[]; keepSide?: Record<string, KeepSide> }): void;
}) {
  const all = usePickable();
  const known = useBenchKnown();
  const found = useFound();
  const value = found.items(stored);
  const taken = meant(found.items(stock), all);
  const items = all.filter(
    (item) => !taken.includes(item.id) && has(item, preset === "subtract" ? "closed" : "divides"),
  );
  const picked = meant(value, items);
  const lost = unmeant(value, items);
  const cuttingStock = mutual && taken.length > 1 ? all.filter((item) => taken.includes(item.id)) : [];
  /** The sides of all that cuts, given that these cutters do. */
  const sidesWith = (cutters: readonly string[]) => ({
    ...sidesOf(keepSide, lost),
    ...sidesFor(keepSide, [...cuttingStock, ...items.filter((item) => cutters.includes(item.id))], faces),
  });
  const toggle = (id: string) => {
    const cutters = toggleItem(value, id, items);
    onChange({ cutters, keepSide: sidesWith(cutters) });
  };
  const sideChoice = (item: ItemView) => (
    <Choice<KeepSide>
      small
      hideLabel
      label={`Side of ${item.name} that stays`}
      value={sideOf(keepSide, item)}
      options={sideOptions(item)}
      onChange={(side) =>
        onChange({ keepSide: { ...sidesWith(picked), [item.id]: side }, cutters: [...picked, ...lost] })
      }
    />
  );
  if (!known) return <StoredItems field={field} value={value} />;
  return (
    <fieldset aria-label={field.label} className="min-w-0">
      <PickHead field={field} count={picked.length + lost.length} hint="Pick in the view" />
      <ItemList
        items={items}
        picked={picked}
        onToggle={toggle}
        after={(item) => (preset === "trim" ? <div className="mt-1 pl-6">{sideChoice(item)}</div> : null)}
      />
      <LostItems refs={lost} onRemove={(ref) => onChange({ cutters: value.filter((other) => other !== ref) })} />
      {preset === "subtract" ? null : <NewPlane stock={all.filter((item) => taken.includes(item.id))} />}
      {preset === "trim"
        ? cuttingStock.map((item) => (
            <div key={item.id} className="mt-2">
              <p className="mb-1 truncate text-[0.8125rem] text-soft">Of the others, cut by {item.name}</p>
              {sideChoice(item)}
            </div>
          ))
        : null}
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
