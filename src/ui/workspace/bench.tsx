"use client";
import { Eye, EyeOff } from "lucide-react";
import { type BodyView, type ItemView, isBodyView } from "@/engine/contract";
import { IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { formatMass } from "../settings/format";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { groupOf, massOf } from "../state/looks";
import { BodyCard } from "./body-card";

/** The strip of cards, one for each body on the bench; those of a group stand in one frame. */
export function Bench() {
  const items = useWorkspace((state) => state.evaluation?.items);
  const part = usePart();
  const starting = useWorkspace(
    (state) => state.engine.kind === "starting" || (state.engine.kind === "computing" && !state.evaluation),
  );
  const of = (item: ItemView) => (isBodyView(item) ? groupOf(part, item) : null);
  const groups = part.groups.flatMap(({ name }) => {
    const members = items?.filter((item): item is BodyView => of(item) === name) ?? [];
    return members.length > 0 ? [{ name, members }] : [];
  });
  return (
    <section
      aria-label="Bench"
      className="flex h-[112px] items-stretch gap-2 overflow-x-auto border-t border-line bg-paper p-2"
    >
      {groups.map(({ name, members }) => (
        <GroupFrame key={name} name={name} members={members} />
      ))}
      {items && inOrder(items).map((item) => (of(item) === null ? <BodyCard key={item.id} item={item} /> : null))}
      {items?.length === 0 ? (
        <p className="self-center px-2 text-soft">The bench is empty: nothing is built yet.</p>
      ) : null}
      {!items && starting ? <p className="self-center px-2 text-soft">Getting the bench ready…</p> : null}
    </section>
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
