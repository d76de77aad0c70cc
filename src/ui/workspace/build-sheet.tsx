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
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { PanelRightClose, PanelRightOpen } from "lucide-react";
import { Fragment, useMemo, useState } from "react";
import type { StepReport } from "@/core/evaluate";
import { groupRuns } from "@/core/job";
import { counted } from "@/core/words";
import type { ItemView } from "@/engine/contract";
import { Button, IconButton } from "../controls/controls";
import { useSettings } from "../settings/settings";
import { usePart, useWorkspace } from "../state/context";
import { useActions } from "./actions";
import { GroupHeading } from "./group-heading";
import { HOLD, HoldBar } from "./hold-bar";
import { OpenStep } from "./open-step";
import { ReferencesBand } from "./references-band";
import { SheetEdge } from "./sheet-edge";
import { StepRow } from "./step-row";

/** The part's steps like a shop traveller: numbered, each with what it made and its state; the open one in place. */
export function BuildSheet() {
  const part = usePart();
  const openStep = useWorkspace((state) => state.editing?.step.id ?? null);
  const isNew = useWorkspace((state) => state.editing?.isNew === true);
  const open = openStep !== null;
  const width = useSettings((state) => state.sheetWidth);
  const sheetFolded = useSettings((state) => state.sheetFolded);
  const change = useSettings((state) => state.change);
  const reports = useWorkspace((state) => state.evaluation?.steps);
  const items = useWorkspace((state) => state.evaluation?.items);
  const made = useMemo(() => madeBy(reports, items), [reports, items]);
  const { move, hold } = useActions();
  const trouble = useWorkspace((state) => state.sheetTrouble);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // The same for as long as the sheet is: what hands them on to the rows has every row drawn anew for another list.
  const { order, runs, place, rows } = useMemo(() => {
    const order = part.steps.map((step) => step.id);
    const place = part.hold === null ? order.length : order.indexOf(part.hold) + 1;
    return { order, place, runs: groupRuns(part.steps), rows: [...order.slice(0, place), HOLD, ...order.slice(place)] };
  }, [part]);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());

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

  // An open step is never folded away.
  if (sheetFolded && !open)
    return (
      <aside aria-label="Build sheet" className="flex w-9 flex-col items-center border-l border-line bg-sheet pt-1.5">
        <IconButton label="Unfold the build sheet" className="size-6!" onClick={() => change({ sheetFolded: false })}>
          <PanelRightOpen size={15} aria-hidden />
        </IconButton>
        <span className="mt-2 text-soft [writing-mode:vertical-rl]">
          Build sheet, {counted(part.steps.length, "step")}
        </span>
      </aside>
    );
  return (
    <aside
      aria-label="Build sheet"
      style={{ width }}
      className="relative flex max-w-[50vw] min-h-0 flex-col border-l border-line bg-sheet"
    >
      <SheetEdge />
      <div className="flex h-9 shrink-0 items-center justify-between border-b border-line px-3">
        <h2 className="font-semibold">Build sheet</h2>
        <span className="flex items-center gap-1 text-[0.8125rem] text-soft">
          {counted(part.steps.length, "step")}
          <IconButton
            label="Fold the build sheet away"
            className="size-6!"
            disabled={open}
            onClick={() => change({ sheetFolded: true })}
          >
            <PanelRightClose size={15} aria-hidden />
          </IconButton>
        </span>
      </div>
      {trouble ? (
        <div role="alert" className="border-b border-line bg-warn-wash px-3 py-2 text-[0.8125rem] text-warn">
          {trouble}
        </div>
      ) : null}
      <ReferencesBand />
      <div className="min-h-0 grow relative overflow-auto">
        {part.steps.length === 0 && !open ? <Empty /> : null}
        <DndContext id="build-sheet" sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <SortableContext items={rows} strategy={verticalListSortingStrategy} disabled={open}>
            <ol>
              {rows.map((row) => {
                if (row === HOLD)
                  return (
                    <li key={row}>
                      {isNew ? <OpenStep number={place + 1} /> : null}
                      <HoldBar atEnd={part.hold === null} locked={open} />
                    </li>
                  );
                const at = order.indexOf(row);
                const step = part.steps[at]!;
                const number = at + 1 + (isNew && at >= place ? 1 : 0);
                const run = runs.find(({ ids }) => ids[0] === row);
                const inRun = runs.find(({ ids }) => ids.includes(row));
                const closed = inRun !== undefined && folded.has(inRun.ids[0]!);
                const opened = !isNew && openStep === row;
                return (
                  <Fragment key={row}>
                    {run ? (
                      <GroupHeading
                        run={run}
                        first={number}
                        folded={closed}
                        onFold={() => setFolded((old) => toggled(old, row))}
                      />
                    ) : null}
                    {opened ? (
                      <li>
                        <OpenStep number={number} />
                      </li>
                    ) : closed ? null : (
                      <StepRow
                        step={step}
                        number={number}
                        report={reports?.find((report) => report.id === row)}
                        made={made.get(row) ?? ""}
                        count={order.length}
                        at={at}
                        inGroup={inRun !== undefined}
                      />
                    )}
                  </Fragment>
                );
              })}
            </ol>
          </SortableContext>
        </DndContext>
      </div>
    </aside>
  );
}

/** By step: the names of what it made that is still there. */
function madeBy(reports: readonly StepReport[] = [], items: readonly ItemView[] = []): Map<string, string> {
  const names = new Map(items.map(({ id, name }) => [id, name] as const));
  return new Map(
    reports.map(({ id, made }) => [id, made.flatMap((item) => names.get(item) ?? []).join(", ")] as const),
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

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}
