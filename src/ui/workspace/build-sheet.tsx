"use client";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { GripVertical, MoreHorizontal } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type { StepReport, StepState } from "@/core/build";
import type { Step } from "@/core/job";
import { stepType } from "@/core/steps";
import { Button } from "../controls/controls";
import { StepForm } from "../forms/step-form";
import { Mark, type MarkName } from "../marks/marks";
import { useJob, usePart, useScope, useWorkspace } from "../state/context";
import { problemsOf } from "../state/draft";
import { repaired, useActions } from "./actions";
import { NeedingDialog, useNeeding } from "./needing-dialog";
import { RenameBox } from "./rename-box";

const HOLD = "hold-point";

const STATE_WORDS: Record<StepState, [MarkName, string, string]> = {
  good: ["good", "Good", "text-good"],
  warned: ["warned", "Look here", "text-warn"],
  failed: ["failed", "Failed", "text-bad"],
  waiting: ["waiting", "Waits", "text-warn"],
  suppressed: ["suppressed", "Left out", "text-soft"],
  held: ["held", "After the hold point", "text-soft"],
};

/** The part's steps like a shop traveller: numbered, each with what it made and its state; the open one in place. */
export function BuildSheet() {
  const part = usePart();
  const editing = useWorkspace((state) => state.editing);
  const evaluation = useWorkspace((state) => state.evaluation);
  const { move, hold } = useActions();
  const trouble = useWorkspace((state) => state.sheetTrouble);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const order = part.steps.map((step) => step.id);
  const place = part.hold === null ? order.length : order.indexOf(part.hold) + 1;
  const rows = [...order.slice(0, place), HOLD, ...order.slice(place)];

  function drop({ active, over }: DragEndEvent): void {
    if (!over || active.id === over.id) return;
    const from = rows.indexOf(String(active.id));
    const to = rows.indexOf(String(over.id));
    const next = rows.filter((row) => row !== active.id);
    next.splice(to, 0, String(active.id));
    if (active.id === HOLD) hold(next[next.indexOf(HOLD) - 1] ?? null);
    else {
      const step = part.steps[order.indexOf(String(active.id))]!;
      if (from !== to) move(step, next.filter((row) => row !== HOLD).indexOf(step.id));
    }
  }

  return (
    <aside aria-label="Build sheet" className="flex min-h-0 w-[320px] flex-col border-l border-line bg-sheet">
      <div className="flex h-9 shrink-0 items-center justify-between border-b border-line px-3">
        <h2 className="font-semibold">Build sheet</h2>
        <span className="text-[13px] text-soft">
          {part.steps.length} {part.steps.length === 1 ? "step" : "steps"}
        </span>
      </div>
      {trouble ? (
        <div role="alert" className="border-b border-line bg-warn-wash px-3 py-2 text-[13px] text-warn">
          {trouble}
        </div>
      ) : null}
      <div className="min-h-0 grow overflow-auto">
        {part.steps.length === 0 && !editing ? <Empty /> : null}
        <DndContext id="build-sheet" sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={rows} strategy={verticalListSortingStrategy} disabled={editing !== null}>
            <ol>
              {rows.map((row) => {
                if (row === HOLD)
                  return (
                    <li key={row}>
                      {editing?.isNew ? <OpenStep number={place + 1} /> : null}
                      <HoldBar atEnd={part.hold === null} locked={editing !== null} />
                    </li>
                  );
                const at = order.indexOf(row);
                const step = part.steps[at]!;
                const number = at + 1 + (editing?.isNew && at >= place ? 1 : 0);
                if (editing && !editing.isNew && editing.step.id === row)
                  return (
                    <li key={row}>
                      <OpenStep number={number} />
                    </li>
                  );
                return (
                  <StepRow
                    key={row}
                    step={step}
                    number={number}
                    report={evaluation?.steps.find((report) => report.id === row)}
                    count={order.length}
                    at={at}
                  />
                );
              })}
            </ol>
          </SortableContext>
        </DndContext>
      </div>
    </aside>
  );
}

function Empty() {
  const set = useWorkspace((state) => state.set);
  return (
    <div className="p-4">
      <p className="mb-3 text-soft">This part has no steps yet. Bring in a body, or make stock to divide.</p>
      <Button tone="main" onClick={() => set({ stage: "shape" })}>
        Open the Shape tools
      </Button>
    </div>
  );
}

function HoldBar({ atEnd, locked }: { atEnd: boolean; locked: boolean }) {
  const { setNodeRef, attributes, listeners, transform, isDragging } = useSortable({ id: HOLD });
  const { hold } = useActions();
  return (
    <div
      ref={setNodeRef}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      className={`flex h-7 items-center gap-2 px-2 text-[13px] ${isDragging ? "relative z-10 bg-pick-wash" : ""}`}
    >
      <button
        type="button"
        {...attributes}
        {...(locked ? {} : listeners)}
        aria-label="Hold point: the part is built up to here. Space to pick up, arrow keys to move."
        className="flex cursor-grab items-center gap-1 rounded px-1 text-soft hover:bg-well"
      >
        <Mark name="held" />
        {atEnd ? "Built to the end" : "Hold point"}
      </button>
      <span className="h-0.5 grow bg-ink" aria-hidden />
      {atEnd ? null : (
        <button type="button" className="rounded px-1 text-pick underline" onClick={() => hold(null)}>
          Build all
        </button>
      )}
    </div>
  );
}

function StepRow({
  step,
  number,
  report,
  at,
  count,
}: {
  step: Step;
  number: number;
  report: StepReport | undefined;
  at: number;
  count: number;
}) {
  const editing = useWorkspace((state) => state.editing);
  const items = useWorkspace((state) => state.evaluation?.items);
  const actions = useActions();
  const [renaming, setRenaming] = useState(false);
  const [asking, setAsking] = useState<"needs" | "delete" | null>(null);
  const needing = useNeeding(step.id);
  const sortable = useSortable({ id: step.id });
  const label = stepType(step.type)?.words.label ?? step.type;
  const title = step.name ?? (step.type === "seam" ? String(step.preset).replace(/^./, (c) => c.toUpperCase()) : label);
  const state = report ? STATE_WORDS[report.state] : null;
  const made = items?.filter((item) => report?.made.includes(item.id)).map((item) => item.name) ?? [];
  const quiet = report?.state === "suppressed" || report?.state === "held";
  return (
    <li
      ref={sortable.setNodeRef}
      data-step={step.id}
      data-state={report?.state}
      style={sortable.transform ? { transform: `translateY(${sortable.transform.y}px)` } : undefined}
      className={`group border-b border-line ${sortable.isDragging ? "relative z-10 bg-pick-wash" : ""}`}
    >
      <div className="flex items-start gap-1 py-1.5 pr-1.5 pl-1">
        <button
          type="button"
          {...sortable.attributes}
          {...(editing ? {} : sortable.listeners)}
          aria-label={`Move step ${number}. Space to pick up, arrow keys to move.`}
          className="mt-0.5 cursor-grab rounded text-rule opacity-60 group-hover:opacity-100 focus-visible:opacity-100"
        >
          <GripVertical size={14} aria-hidden />
        </button>
        <span className="num mt-px w-5 shrink-0 text-right text-soft">{number}</span>
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
              disabled={editing !== null}
              onClick={() => actions.open(step.id)}
              className={`block w-full truncate rounded text-left font-medium enabled:hover:underline ${quiet ? "text-soft" : ""}`}
            >
              {title}
            </button>
          )}
          {made.length > 0 ? <p className="truncate text-[13px] text-soft">{made.join(", ")}</p> : null}
          {report?.error ? <Trouble message={report.error.message} bad={report.state === "failed"} /> : null}
          {report?.warnings.map((warning) => (
            <Trouble key={warning.message} message={warning.message} bad={false} />
          ))}
          {report?.error?.repair ? (
            <Button
              small
              className="mt-1"
              onClick={() =>
                actions.repair(report.error!.repair!.step, report.error!.repair!.set, report.error!.repair!.label)
              }
            >
              {report.error.repair.label}
            </Button>
          ) : null}
        </div>
        {state ? (
          <span className={`mt-0.5 ${state[2]}`}>
            <Mark name={state[0]} title={state[1]} />
          </span>
        ) : null}
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label={`More for step ${number}`}
            disabled={editing !== null}
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
              <MenuItem disabled={needing.length === 0} onSelect={() => setTimeout(() => setAsking("needs"))}>
                What needs this{needing.length > 0 ? ` (${needing.length})` : ""}
              </MenuItem>
              <MenuItem
                onSelect={() => (needing.length > 0 ? setTimeout(() => setAsking("delete")) : actions.remove(step))}
              >
                Delete
              </MenuItem>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        {asking ? (
          <NeedingDialog
            step={step}
            title={title}
            needing={needing}
            deleting={asking === "delete"}
            onClose={() => setAsking(null)}
          />
        ) : null}
      </div>
    </li>
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

function Trouble({ message, bad }: { message: string; bad: boolean }) {
  return (
    <p
      className={`mt-0.5 rounded px-1.5 py-0.5 text-[13px] ${bad ? "bg-bad-wash text-bad" : "bg-warn-wash text-warn"}`}
    >
      {message}
    </p>
  );
}

/** The step that is open, with its form in place and what the preview says of it. */
function OpenStep({ number }: { number: number }) {
  const editing = useWorkspace((state) => state.editing)!;
  const evaluation = useWorkspace((state) => state.evaluation);
  const setDraft = useWorkspace((state) => state.setDraft);
  const computing = useWorkspace((state) => state.engine.kind === "computing");
  const save = useJob((state) => state.save.kind);
  const { keep, leave } = useActions();
  const top = useRef<HTMLDivElement>(null);
  useEffect(() => {
    top.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const type = stepType(editing.step.type);
  const report = evaluation?.steps.find((step) => step.id === editing.step.id);
  const scope = useScope();
  const blocked = Object.keys(problemsOf(editing.step, scope)).length > 0;
  const repair = report?.error?.repair;
  return (
    <div ref={top} className="border-y-2 border-ink bg-paper" data-open-step={editing.step.id}>
      <div className="flex items-center gap-2 px-3 pt-2">
        <span className="num text-soft">{number}</span>
        <h3 className="text-[17px] font-semibold">{editing.step.name ?? type?.words.label}</h3>
      </div>
      <p className="px-3 pb-2 text-[13px] text-soft">{type?.words.line}</p>
      <form
        className="px-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep();
        }}
      >
        <StepForm />
        <div aria-live="polite" className="mt-2">
          {report?.error && !blocked ? (
            <Trouble message={report.error.message} bad={report.state === "failed"} />
          ) : null}
          {report?.warnings.map((warning) => (
            <Trouble key={warning.message} message={warning.message} bad={false} />
          ))}
          {repair && !blocked ? (
            <RepairButton
              label={repair.label}
              step={repair.step}
              set={repair.set}
              own={editing.step.id}
              setDraft={setDraft}
            />
          ) : null}
        </div>
        <div className="sticky bottom-0 -mx-3 mt-3 flex items-center gap-2 border-t border-line bg-paper px-3 py-2">
          <Button type="submit" tone="main" disabled={blocked || save === "stale"}>
            {editing.isNew ? "Add to the sheet" : "Update the step"}
          </Button>
          <Button onClick={leave}>Discard</Button>
          <span className="text-[13px] text-soft">
            {blocked ? "Mend the marked fields" : computing ? "Building…" : ""}
          </span>
        </div>
      </form>
    </div>
  );
}

function RepairButton(props: {
  label: string;
  step: string;
  set: Record<string, unknown>;
  own: string;
  setDraft(values: Record<string, unknown>): void;
}) {
  const { repair } = useActions();
  const editing = useWorkspace((state) => state.editing)!;
  return (
    <Button
      small
      className="mt-1"
      onClick={() =>
        props.step === props.own
          ? props.setDraft(repaired(editing.step, props.set))
          : repair(props.step, props.set, props.label)
      }
    >
      {props.label}
    </Button>
  );
}
