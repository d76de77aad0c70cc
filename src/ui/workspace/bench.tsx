"use client";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronUp, Eye, EyeOff } from "lucide-react";
import { Fragment, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { counted } from "@/core/words";
import type { BodyView, ItemView } from "@/engine/contract";
import { IconButton } from "../controls/controls";
import { Mark } from "../marks/marks";
import { formatMass } from "../settings/format";
import { useSettings } from "../settings/settings";
import { useJob, usePart, useStores, useWorkspace } from "../state/context";
import { massOf } from "../state/looks";
import { hasServed } from "../state/visibility";
import { drawnOf, EDGE, FREE, type Place, placesOf, withHeads } from "./bench-places";
import { BodyCard } from "./body-card";

/** The strip of cards, one for each body on the bench; those of a group stand in one frame. */
export function Bench() {
  const count = useWorkspace((state) => state.evaluation?.items.length ?? 0);
  const folded = useSettings((state) => state.benchFolded);
  const change = useSettings((state) => state.change);
  if (!folded) return <Strip onFold={() => change({ benchFolded: true })} />;
  return (
    <section aria-label="Bench" className="flex h-8 items-center gap-2 border-t border-line bg-paper px-2 text-soft">
      <IconButton label="Unfold the bench" className="size-6!" onClick={() => change({ benchFolded: false })}>
        <ChevronUp size={15} aria-hidden />
      </IconButton>
      Bench, {counted(count, "item")}
    </section>
  );
}

function Strip({ onFold }: { onFold(): void }) {
  const items = useWorkspace((state) => state.evaluation?.items);
  const part = usePart();
  const shown = useWorkspace((state) => state.shown);
  const selected = useWorkspace((state) => state.selected);
  const starting = useWorkspace(
    (state) => state.engine.kind === "starting" || (state.engine.kind === "computing" && !state.evaluation),
  );
  const [open, setOpen] = useState(false);
  const places = useMemo(() => {
    const away = (item: ItemView) => hasServed(item, part) && !shown.has(item.id) && item.id !== selected;
    return placesOf(items ?? [], part, away, open);
  }, [items, part, shown, selected, open]);
  // Only what is in sight is there, as hundreds of cards would take longer to make than their bodies: that, and what had the
  // focus last, since a name that is being typed, or what is open above a card, stays when it is scrolled away.
  const strip = useRef<HTMLDivElement>(null);
  const [focused, setFocused] = useState<string | null>(null);
  const row = useVirtualizer({
    horizontal: true,
    count: places.length,
    getScrollElement: () => strip.current,
    estimateSize: (i) => places[i]!.width,
    getItemKey: useCallback((i: number) => places[i]!.key, [places]),
    overscan: 4,
    paddingStart: FREE,
    scrollPaddingStart: FREE,
    scrollPaddingEnd: FREE,
    rangeExtractor: (range) => {
      const held = focused === null ? -1 : places.findIndex(({ key }) => key === focused);
      return withHeads(places, held < 0 ? defaultRangeExtractor(range) : [...defaultRangeExtractor(range), held]);
    },
  });
  const place = places.findIndex(({ key }) => key === selected);
  useEffect(() => {
    if (place >= 0) row.scrollToIndex(place, { align: "auto" });
  }, [place, row]);
  const inSight = row.getVirtualItems().map(({ index }) => index);
  const { drawn, after } = drawnOf(places, inSight);
  const content = (one: Place) => {
    if (one.kind === "item") return <BodyCard item={one.item} />;
    if (one.kind === "head") return <GroupHead name={one.group!} members={one.members} />;
    return <Served items={one.items} open={open} onToggle={() => setOpen(!open)} />;
  };
  return (
    <section
      aria-label="Bench"
      onFocus={({ target }) => setFocused((old) => keyAt(target) ?? old)}
      className="flex h-[112px] border-t border-line bg-paper"
    >
      <div ref={strip} className="flex min-w-0 grow items-stretch overflow-x-auto p-2 pr-0">
        {drawn.map(({ before, group, last, places: here }) => {
          const cards = here.map(({ before: free, place: one }) => (
            <div
              key={one.key}
              data-place={one.key}
              className="flex shrink-0"
              style={{ marginLeft: free, width: one.width - (one.last ? FREE : 0) }}
            >
              {content(one)}
            </div>
          ));
          return group === null ? (
            <Fragment key={here[0]!.place.key}>
              <Gap width={before} />
              {cards}
            </Fragment>
          ) : (
            <Fragment key={`group ${group}`}>
              <Gap width={before} />
              <fieldset
                aria-label={`Group ${group}`}
                className="flex shrink-0 items-stretch rounded py-0.5 inset-ring inset-ring-rule"
                style={{ marginRight: last ? FREE : 0 }}
              >
                {cards}
              </fieldset>
            </Fragment>
          );
        })}
        <Gap width={after} />
        {items?.length === 0 ? (
          <p className="self-center px-2 text-soft">The bench is empty: nothing is built yet.</p>
        ) : null}
        {!items && starting ? <p className="self-center px-2 text-soft">Getting the bench ready…</p> : null}
      </div>
      <IconButton label="Fold the bench away" className="m-1 size-6! shrink-0" onClick={onFold}>
        <ChevronDown size={15} aria-hidden />
      </IconButton>
    </section>
  );
}

/** Which place of the strip something is at: what opens above a card is at none. */
const keyAt = (target: Element): string | null => target.closest<HTMLElement>("[data-place]")?.dataset.place ?? null;

const Gap = ({ width }: { width: number }) => (width > 0 ? <div className="shrink-0" style={{ width }} /> : null);

/** Planes and drawings that have served are folded away, until someone asks for them. */
function Served({ items, open, onToggle }: { items: readonly ItemView[]; open: boolean; onToggle(): void }) {
  return (
    <button
      type="button"
      aria-expanded={open}
      onClick={onToggle}
      className="flex w-32 shrink-0 flex-col justify-center gap-1 rounded border border-dashed border-line px-2 text-left text-[0.8125rem] text-soft hover:border-rule hover:text-ink"
    >
      <span className="flex gap-1">
        {[...new Set(items.map(({ kind }) => kind))].map((kind) => (
          <Mark key={kind} name={kind} />
        ))}
      </span>
      {open ? "Fold away what has served" : `${items.length} that ${items.length === 1 ? "has" : "have"} served`}
    </button>
  );
}

/** What the bodies of a group weigh together, and one way to show or hide them all. */
function GroupHead({ name, members }: { name: string; members: readonly BodyView[] }) {
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
    <div className="flex w-24 flex-col justify-between py-1 pl-1.5" style={{ marginLeft: EDGE }}>
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
  );
}
