"use client";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useState } from "react";
import type { StepState } from "@/core/evaluate";
import type { GroupRun } from "@/core/job";
import { Mark } from "../marks/marks";
import { useWorkspace } from "../state/context";
import { useActions } from "./actions";
import { RenameBox } from "./rename-box";

/** The worst state of steps that are folded up: what must not be missed. */
const WORST: StepState[] = ["failed", "waiting", "warned"];

/** The heading of steps that belong together: it folds them up, and can be called something else. */
export function GroupHeading({
  run,
  first,
  folded,
  onFold,
}: {
  run: GroupRun;
  /** The number of its first step. */
  first: number;
  folded: boolean;
  onFold(): void;
}) {
  const reports = useWorkspace((state) => state.evaluation?.steps);
  const actions = useActions();
  const [renaming, setRenaming] = useState(false);
  const states = reports?.filter(({ id }) => run.ids.includes(id)).map(({ state }) => state) ?? [];
  const worst = WORST.find((state) => states.includes(state));
  const last = first + run.ids.length - 1;
  return (
    <li className="flex items-center gap-1 border-b border-line bg-well py-1 pr-2 pl-1" data-group={run.name}>
      <button
        type="button"
        aria-expanded={!folded}
        aria-label={`${folded ? "Unfold" : "Fold up"} ${run.name}`}
        onClick={onFold}
        className="rounded p-0.5 hover:bg-line"
      >
        {folded ? <ChevronRight size={15} aria-hidden /> : <ChevronDown size={15} aria-hidden />}
      </button>
      {renaming ? (
        <RenameBox
          value={run.name}
          placeholder={run.name}
          onDone={(name) => {
            setRenaming(false);
            if (name !== null) actions.renameGroup(run, name);
          }}
        />
      ) : (
        <button
          type="button"
          title="Rename"
          onClick={() => setRenaming(true)}
          className="min-w-0 grow truncate rounded text-left font-semibold hover:underline"
        >
          {run.name}
        </button>
      )}
      <span className="num shrink-0 pr-1 text-[0.8125rem] text-soft">
        {first === last ? first : `${first} to ${last}`}
      </span>
      {worst ? (
        <span className={worst === "failed" ? "text-bad" : "text-warn"}>
          <Mark name={worst} title={worst === "failed" ? "One failed" : "Look here"} />
        </span>
      ) : null}
    </li>
  );
}
