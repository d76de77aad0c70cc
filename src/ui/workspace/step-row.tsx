"use client";
import { useSortable } from "@dnd-kit/sortable";
import { GripVertical, MoreHorizontal } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { memo, type ReactNode, useState } from "react";
import type { StepReport, StepState } from "@/core/evaluate";
import { linkOf, type Step } from "@/core/job";
import { Mark, type MarkName } from "../marks/marks";
import { ToolMark, toolOf } from "../marks/tool-marks";
import { useWorkspace } from "../state/context";
import { stepTitle } from "../state/step-title";
import { useActions } from "./actions";
import { LinkLine } from "./link-line";
import { NeedingDialog, useNeeding } from "./needing-dialog";
import { RenameBox } from "./rename-box";
import { StepTold, StepTrouble, StepWarnings } from "./step-trouble";

const STATE_WORDS: Record<StepState, [MarkName, string, string]> = {
  good: ["good", "Good", "text-good"],
  warned: ["warned", "Look here", "text-warn"],
  failed: ["failed", "Failed", "text-bad"],
  waiting: ["waiting", "Waits", "text-warn"],
  suppressed: ["suppressed", "Left out", "text-soft"],
  held: ["held", "After the hold point", "text-soft"],
};

/**
 * A step of the sheet: its number, name, what it made, its state, and a menu of what can be done with it. Drawn anew only for
 * what it shows: a sheet has hundreds, and a value that is typed changes one.
 */
export const StepRow = memo(function StepRow({
  step,
  number,
  report,
  made,
  at,
  count,
  inGroup,
}: {
  step: Step;
  number: number;
  report: StepReport | undefined;
  /** The names of what it made. */
  made: string;
  at: number;
  count: number;
  inGroup: boolean;
}) {
  const locked = useWorkspace((state) => state.editing !== null);
  const actions = useActions();
  const [renaming, setRenaming] = useState(false);
  const [asking, setAsking] = useState<"needs" | "delete" | null>(null);
  const sortable = useSortable({ id: step.id });
  const title = stepTitle(step);
  const state = report ? STATE_WORDS[report.state] : null;
  const quiet = report?.state === "suppressed" || report?.state === "held";
  return (
    <li
      ref={sortable.setNodeRef}
      data-step={step.id}
      data-state={report?.state}
      style={sortable.transform ? { transform: `translateY(${sortable.transform.y}px)` } : undefined}
      className={`group border-b border-line ${inGroup ? "border-l-4 border-l-rule" : ""} ${sortable.isDragging ? "relative z-10 bg-pick-wash" : ""}`}
    >
      <div className="flex items-start gap-1 py-1.5 pr-1.5 pl-1">
        <button
          type="button"
          {...sortable.attributes}
          {...(locked ? {} : sortable.listeners)}
          aria-label={`Move step ${number}. Space to pick up, arrow keys to move.`}
          className="mt-0.5 cursor-grab rounded text-rule opacity-60 group-hover:opacity-100 focus-visible:opacity-100"
        >
          <GripVertical size={14} aria-hidden />
        </button>
        <span className="num mt-px w-5 shrink-0 text-right text-soft">{number}</span>
        <ToolMark id={toolOf(step)} size={17} className={`mt-px ml-0.5 ${quiet ? "text-rule" : "text-soft"}`} />
        <div className="min-w-0 grow pl-1">
          {renaming ? (
            <RenameBox
              value={step.name ?? ""}
              placeholder={title}
              onDone={(name) => {
                setRenaming(false);
                if (name !== null) actions.renameStep(step, name);
              }}
            />
          ) : (
            <button
              type="button"
              disabled={locked}
              onClick={() => actions.open(step.id)}
              className={`block w-full truncate rounded text-left font-medium enabled:hover:underline ${quiet ? "text-soft" : ""}`}
            >
              {title}
            </button>
          )}
          {made ? <p className="truncate text-[0.8125rem] text-soft">{made}</p> : null}
          {report?.error ? <StepTrouble trouble={report.error} bad={report.state === "failed"} /> : null}
          {linkOf(step) && !step.suppressed ? <LinkLine step={step} locked={locked} /> : null}
          <StepWarnings warnings={report?.warnings ?? []} />
          <StepTold told={report?.told ?? []} />
        </div>
        {state ? (
          <span className={`mt-0.5 ${state[2]}`}>
            <Mark name={state[0]} title={state[1]} />
          </span>
        ) : null}
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger
            aria-label={`More for step ${number}`}
            disabled={locked}
            className="rounded p-0.5 text-soft hover:bg-well disabled:opacity-30"
          >
            <MoreHorizontal size={16} aria-hidden />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              className="z-50 min-w-44 rounded border border-line bg-sheet py-1 shadow-lg"
            >
              <MenuItem onSelect={() => actions.open(step.id)}>Open</MenuItem>
              <MenuItem onSelect={() => setTimeout(() => setRenaming(true))}>Rename</MenuItem>
              <MenuItem onSelect={() => actions.copy(step)}>Copy</MenuItem>
              <MenuItem onSelect={() => actions.suppress(step, !step.suppressed)}>
                {step.suppressed ? "Put back" : "Leave out"}
              </MenuItem>
              <MenuItem onSelect={() => actions.hold(step.id)}>Hold after this step</MenuItem>
              <MenuItem disabled={at === 0} onSelect={() => actions.move(step, at - 1)}>
                Move up
              </MenuItem>
              <MenuItem disabled={at === count - 1} onSelect={() => actions.move(step, at + 1)}>
                Move down
              </MenuItem>
              {step.group ? (
                <MenuItem onSelect={() => actions.ungroup(step)}>Take out of “{step.group}”</MenuItem>
              ) : (
                <MenuItem disabled={at === 0} onSelect={() => actions.groupWithAbove(step)}>
                  Group with the one above
                </MenuItem>
              )}
              <ItemsOfNeeding step={step} ask={(what) => setTimeout(() => setAsking(what))} />
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        {asking ? (
          <NeedingDialog step={step} title={title} deleting={asking === "delete"} onClose={() => setAsking(null)} />
        ) : null}
      </div>
    </li>
  );
});

/** What of the menu depends on which steps need this one: that is found when the menu opens, not for every row at every edit. */
function ItemsOfNeeding({ step, ask }: { step: Step; ask(what: "needs" | "delete"): void }) {
  const actions = useActions();
  const needing = useNeeding(step.id);
  return (
    <>
      <MenuItem disabled={needing.length === 0} onSelect={() => ask("needs")}>
        What needs this{needing.length > 0 ? ` (${needing.length})` : ""}
      </MenuItem>
      <MenuItem onSelect={() => (needing.length > 0 ? ask("delete") : actions.remove(step))}>Delete</MenuItem>
    </>
  );
}

function MenuItem({ children, ...rest }: { children: ReactNode; onSelect(): void; disabled?: boolean }) {
  return (
    <DropdownMenu.Item
      className="cursor-default px-3 py-1.5 outline-none data-[disabled]:opacity-40 data-[highlighted]:bg-well"
      {...rest}
    >
      {children}
    </DropdownMenu.Item>
  );
}
