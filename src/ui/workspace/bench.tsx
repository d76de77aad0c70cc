"use client";
import { ChevronDown, ChevronUp, Eye, EyeOff } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/words";
import { type BodyView, type ItemView, isBodyView } from "@/engine/contract";
import { IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { formatMass } from "../settings/format";
import { useSettings } from "../settings/settings";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { groupOf, massOf } from "../state/looks";
import { hasServed } from "../state/visibility";
import { BodyCard } from "./body-card";

/** The strip of cards, one for each body on the bench; those of a group stand in one frame. */
export function Bench() {
  const items = useWorkspace((state) => state.evaluation?.items);
  const part = usePart();
  const folded = useSettings((state) => state.benchFolded);
  const change = useSettings((state) => state.change);
  const shown = useWorkspace((state) => state.shown);
  const selected = useWorkspace((state) => state.selected);
  const starting = useWorkspace(
    (state) => state.engine.kind === "starting" || (state.engine.kind === "computing" && !state.evaluation),
  );
  const of = (item: ItemView) => (isBodyView(item) ? groupOf(part, item) : null);
  const groups = part.groups.flatMap(({ name }) => {
    const members = items?.filter((item): item is BodyView => of(item) === name) ?? [];
    return members.length > 0 ? [{ name, members }] : [];
  });
  const loose = items ? inOrder(items).filter((item) => of(item) === null) : [];
  const away = (item: ItemView) => hasServed(item, part) && !shown.has(item.id) && item.id !== selected;
  const lying = loose.filter((item) => !away(item));
  const served = loose.filter(away);
  if (folded)
    return (
      <section aria-label="Bench" className="flex h-8 items-center gap-2 border-t border-line bg-paper px-2 text-soft">
        <IconButton label="Unfold the bench" className="size-6!" onClick={() => change({ benchFolded: false })}>
          <ChevronUp size={15} aria-hidden />
        </IconButton>
        Bench, {counted(items?.length ?? 0, "item")}
      </section>
    );
  return (
    <section
      aria-label="Bench"
      className="flex h-[112px] items-stretch gap-2 overflow-x-auto border-t border-line bg-paper p-2"
    >
      {groups.map(({ name, members }) => (
        <GroupFrame key={name} name={name} members={members} />
      ))}
      {lying.map((item) => (
        <BodyCard key={item.id} item={item} />
      ))}
      <Served items={served} />
      <IconButton
        label="Fold the bench away"
        className="ml-auto size-6! self-start"
        onClick={() => change({ benchFolded: true })}
      >
        <ChevronDown size={15} aria-hidden />
      </IconButton>
      {items?.length === 0 ? (
        <p className="self-center px-2 text-soft">The bench is empty: nothing is built yet.</p>
      ) : null}
      {!items && starting ? <p className="self-center px-2 text-soft">Getting the bench ready…</p> : null}
    </section>
  );
}

/** Planes and drawings that have served are folded away, until someone asks for them. */
function Served({ items }: { items: ItemView[] }) {
  const [open, setOpen] = useState(false);
  if (items.length === 0) return null;
  return (
    <>
      {open ? items.map((item) => <BodyCard key={item.id} item={item} />) : null}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex w-32 shrink-0 flex-col justify-center gap-1 rounded border border-dashed border-line px-2 text-left text-[0.8125rem] text-soft hover:border-rule hover:text-ink"
      >
        <span className="flex gap-1">
          {[...new Set(items.map(({ kind }) => kind))].map((kind) => (
            <Mark key={kind} name={kind} />
          ))}
        </span>
        {open ? "Fold away what has served" : `${items.length} that ${items.length === 1 ? "has" : "have"} served`}
      </button>
    </>
  );
}

/** Bodies first: planes and sketches are what they were made with. */
const inOrder = (items: readonly ItemView[]): ItemView[] => [
  ...items.filter(isBodyView),
  ...items.filter((item) => !isBodyView(item)),
];

/** The cards of a group, with what they weigh together and one way to show or hide them all. */
function GroupFrame({ name, members }: { name: string; members: BodyView[] }) {
  const { workspace } = useStores();
  const part = usePart();
  const materials = useJob((state) => state.job.materials);
  const unit = useJob((state) => state.job.units);
  const hidden = useWorkspace((state) => state.hidden);
  const gone = members.every(({ id }) => hidden.has(id));
  const masses = members.map((body) => massOf({ materials }, part, body)?.grams ?? null);
  const whole = masses.every((mass) => mass !== null);
  const sum = masses.reduce<number>((total, mass) => total + (mass ?? 0), 0);
  const toggle = () => {
    const next = new Set(hidden);
    for (const { id } of members) {
      if (gone) next.delete(id);
      else next.add(id);
    }
    workspace.getState().set({ hidden: next, alone: null });
  };
  return (
    <fieldset
      aria-label={`Group ${name}`}
      className="flex shrink-0 items-stretch gap-1 rounded border border-rule p-0.5"
    >
      <div className="flex w-24 flex-col justify-between py-1 pl-1.5">
        <div>
          <p className="flex items-center gap-1 text-[0.8125rem] text-soft">
            <Mark name="group" /> group
          </p>
          <p className="truncate font-medium" title={name}>
            {name}
          </p>
          {sum > 0 ? (
            <p className="num truncate text-[0.8125rem]" title={whole ? undefined : "Not all of it has a material"}>
              {whole ? "" : "> "}
              {formatMass(sum, unit)}
            </p>
          ) : null}
        </div>
        <IconButton label={`${gone ? "Show" : "Hide"} the group ${name}`} className="-ml-1.5 size-6!" onClick={toggle}>
          {gone ? <EyeOff size={15} aria-hidden /> : <Eye size={15} aria-hidden />}
        </IconButton>
      </div>
      {members.map((item) => (
        <BodyCard key={item.id} item={item} />
      ))}
    </fieldset>
  );
}
