"use client";
import { Blend, ChevronDown, ChevronRight, Eye, EyeOff, Focus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { linksOf, type Part, type Stand, standing } from "@/core/job";
import { counted } from "@/core/words";
import { isBodyView } from "@/engine/contract";
import { Button, IconButton } from "../controls/controls";
import { useJob, useWorkspace } from "../state/context";
import { isStandOut, LEAVE_WHOLE, standKey } from "../state/others";
import { PlaceForm } from "./place-form";

/** A part where it stands, or a copy of it: shown, hidden, alone or seen through; worked on; and stood elsewhere. */
export function StandRow({
  part,
  stand,
  isChosen,
  usedBy,
}: {
  part: Part;
  stand: Stand;
  isChosen: boolean;
  usedBy: string[];
}) {
  const job = useJob((state) => state.job);
  const current = useWorkspace((state) => state.part);
  const known = useWorkspace((state) =>
    part.id === state.part ? state.evaluation : (state.others.get(part.id) ?? null),
  );
  const trouble = useWorkspace((state) => state.others.get(part.id)?.trouble ?? null);
  const out = useWorkspace((state) => isStandOut({ part: part.id, at: stand.at }, state));
  const hidden = useWorkspace((state) => state.standsHidden);
  const clear = useWorkspace((state) => state.standsClear);
  const alone = useWorkspace((state) => state.standAlone);
  const set = useWorkspace((state) => state.set);
  const [open, setOpen] = useState(false);
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isChosen) row.current?.scrollIntoView({ block: "nearest" });
  }, [isChosen]);
  const key = standKey({ part: part.id, at: stand.at });
  const bodies = known?.items.filter(isBodyView).length;
  const stands = standing(job, part, stand.at);
  const uses = [
    ...new Set(linksOf(part).flatMap(({ to }) => job.parts.find(({ id }) => id === to)?.name ?? "a part that is gone")),
  ];
  const work = () =>
    set({
      ...LEAVE_WHOLE,
      around: true,
      ...(part.id === current ? {} : { part: part.id, evaluation: null, alone: null }),
    });
  return (
    <li ref={row} data-stand={key} className={`border-b border-line ${isChosen ? "bg-pick-wash" : ""}`}>
      <div className="flex items-start gap-1 px-1.5 py-1.5">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Where ${stand.name} stands`}
          onClick={() => setOpen(!open)}
          className="mt-0.5 rounded text-soft hover:text-ink"
        >
          {open ? <ChevronDown size={16} aria-hidden /> : <ChevronRight size={16} aria-hidden />}
        </button>
        <div className="min-w-0 grow">
          <p className="truncate font-medium" title={stand.name}>
            {stand.name}
          </p>
          <p className="text-[0.8125rem] text-soft">
            {stand.at === ""
              ? bodies === undefined
                ? "Not built yet"
                : counted(bodies, "body", "bodies")
              : `A copy of “${part.name}”`}
            {trouble ? <span className="text-warn"> · {trouble}</span> : null}
          </p>
          {"problem" in stands ? (
            <p role="alert" className="text-[0.8125rem] text-bad">
              {stands.problem}
            </p>
          ) : null}
        </div>
        <div className="flex shrink-0 items-center">
          <IconButton
            label={out ? `Show ${stand.name}` : `Hide ${stand.name}`}
            aria-pressed={out}
            className="size-7!"
            onClick={() => (alone !== null ? set({ standAlone: null }) : set({ standsHidden: toggled(hidden, key) }))}
          >
            {out ? <EyeOff size={15} aria-hidden /> : <Eye size={15} aria-hidden />}
          </IconButton>
          <IconButton
            label={`See through ${stand.name}`}
            aria-pressed={clear.has(key)}
            className="size-7!"
            onClick={() => set({ standsClear: toggled(clear, key) })}
          >
            <Blend size={15} aria-hidden />
          </IconButton>
          <IconButton
            label={`Show ${stand.name} alone`}
            aria-pressed={alone === key}
            className="size-7!"
            onClick={() => set({ standAlone: alone === key ? null : key })}
          >
            <Focus size={15} aria-hidden />
          </IconButton>
          {stand.at === "" ? (
            <Button small className="ml-1" onClick={work}>
              Work on it
            </Button>
          ) : null}
        </div>
      </div>
      {stand.at === "" && uses.length + usedBy.length > 0 ? (
        <p className="-mt-1 px-3 pb-1.5 pl-8 text-[0.8125rem] text-soft [overflow-wrap:anywhere]">
          {[uses.length > 0 ? `Uses ${some(uses)}` : "", usedBy.length > 0 ? `Used by ${some(usedBy)}` : ""]
            .filter(Boolean)
            .join(". ")}
        </p>
      ) : null}
      {open ? <PlaceForm part={part} stand={stand} /> : null}
    </li>
  );
}

/** Of many names the first few, and how many more. */
const some = (names: readonly string[]): string =>
  names.length <= FEW ? names.join(", ") : `${names.slice(0, FEW).join(", ")} and ${names.length - FEW} more`;
const FEW = 3;

function toggled(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}
