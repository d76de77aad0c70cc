"use client";
import { useMemo } from "react";
import type { Repair, Trouble } from "@/core/errors";
import { whyNotMoved } from "@/core/evaluate/dependants";
import { hasAny } from "@/core/items/kinds";
import {
  changesOf,
  edits,
  freshStepId,
  type GroupRun,
  insertBefore,
  insertedStep,
  newStep,
  repaired,
  type Step,
  sheetEdits,
} from "@/core/job";
import { shownFields } from "@/core/steps";
import { useStores } from "../state/context";
import { withSeen } from "../state/fates";
import type { JobStoreHandle } from "../state/job-store";
import { problemsOf, scopeIn } from "../state/open-values";
import { stepTitle } from "../state/step-title";
import { shownPieces } from "../state/view-content";
import type { WorkspaceStoreApi } from "../state/workspace-store";

/** What a person can do in the workspace, in one place for buttons, keys and menus. */
export function useActions() {
  const { job, workspace } = useStores();
  return useMemo(() => actionsOn(job, workspace), [job, workspace]);
}

/** The same without a page. */
export function actionsOn(job: JobStoreHandle, workspace: WorkspaceStoreApi) {
  const part = () => {
    const { job: document } = job.store.getState();
    return document.parts.find((candidate) => candidate.id === workspace.getState().part) ?? document.parts[0]!;
  };
  const { editPart } = job.store.getState();
  const sound = (step: Step) =>
    Object.keys(problemsOf(step, scopeIn(job.store.getState().job, workspace.getState().part))).length === 0;
  return {
    /** Opens a new step in the sheet; it joins the job only when it is kept. */
    begin(type: string, values: Record<string, unknown>) {
      const state = workspace.getState();
      const step = newStep(freshStepId(part(), job.store.getState().job), type, values);
      const bodies = shownFields(step).find((field) => field.kind === "bodies");
      const chosen = state.evaluation?.items.find((item) => item.id === state.selected);
      if (bodies && chosen && bodies.kind === "bodies" && hasAny(chosen, bodies.accepts))
        step[bodies.key] = [chosen.id];
      state.edit({ step, isNew: true });
    },
    open(id: string) {
      const step = part().steps.find((candidate) => candidate.id === id);
      if (step) workspace.getState().edit({ step: structuredClone(step), isNew: false });
    },
    canKeep(): boolean {
      const { editing } = workspace.getState();
      return editing !== null && sound(editing.step);
    },
    /** Writes the open step into the job. */
    keep() {
      const { editing, edit } = workspace.getState();
      if (!editing || !sound(editing.step)) return;
      const { isNew } = editing;
      const step = withSeen(editing.step, shownPieces(workspace.getState()));
      if (isNew) editPart(part().id, `Add ${stepTitle(step)}`, (draft) => edits.addStep(draft, step));
      else editPart(part().id, `Change ${stepTitle(step)}`, (draft) => edits.setStep(draft, step.id, step));
      edit(null);
    },
    /** Makes a workplane before the open step, which cuts by it. */
    cutBy(values: Record<string, unknown>) {
      const { editing, setValues } = workspace.getState();
      if (!editing) return;
      const id = freshStepId({ ...part(), steps: [...part().steps, editing.step] }, job.store.getState().job);
      editPart(part().id, "Add a plane to cut with", (draft) => {
        insertBefore(draft, newStep(id, "workplane", values), editing.step.id);
      });
      setValues({ cutters: [...((editing.step.cutters ?? []) as string[]), id] });
    },
    leave() {
      workspace.getState().edit(null);
    },
    remove(step: Step) {
      editPart(part().id, `Delete ${stepTitle(step)}`, (draft) => edits.removeStep(draft, step.id));
      if (workspace.getState().editing?.step.id === step.id) workspace.getState().edit(null);
    },
    /** Deletes a step with all that need it, as one change. */
    removeAll(step: Step, others: readonly Step[]) {
      editPart(part().id, `Delete ${stepTitle(step)} and what needs it`, (draft) => {
        for (const { id } of [...others, step]) edits.removeStep(draft, id);
      });
    },
    move(step: Step, to: number) {
      const clash = whyNotMoved(part().steps, step.id, to);
      workspace.getState().set({
        sheetTrouble:
          clash &&
          `“${stepTitle(clash.needs)}” needs what “${stepTitle(clash.needed)}” makes, so it has to stand after it. Nothing was moved.`,
      });
      if (clash) return;
      editPart(part().id, `Move ${stepTitle(step)}`, (draft) => edits.moveStep(draft, step.id, to));
    },
    hold(id: string | null) {
      editPart(part().id, id === null ? "Build to the end" : "Move the hold point", (draft) =>
        edits.setHold(draft, id),
      );
    },
    suppress(step: Step, suppressed: boolean) {
      editPart(part().id, `${suppressed ? "Leave out" : "Put back"} ${stepTitle(step)}`, (draft) =>
        edits.suppress(draft, step.id, suppressed),
      );
    },
    renameStep(step: Step, name: string) {
      editPart(part().id, `Rename ${stepTitle(step)}`, (draft) => edits.renameStep(draft, step.id, name));
    },
    copy(step: Step) {
      editPart(part().id, `Copy ${stepTitle(step)}`, (draft, all) => sheetEdits.copyStep(draft, step.id, all));
    },
    /** Puts a step into the group of the one above it; where that has none, both begin one. */
    groupWithAbove(step: Step) {
      const { steps } = part();
      const above = steps[steps.findIndex(({ id }) => id === step.id) - 1];
      if (!above) return;
      const taken = new Set(steps.map(({ group }) => group));
      let number = 1;
      while (taken.has(`Group ${number}`)) number++;
      const name = above.group ?? `Group ${number}`;
      editPart(part().id, `Group ${stepTitle(step)} with ${stepTitle(above)}`, (draft) => {
        sheetEdits.groupStep(draft, above.id, name);
        sheetEdits.groupStep(draft, step.id, name);
      });
    },
    ungroup(step: Step) {
      editPart(part().id, `Take ${stepTitle(step)} out of ${step.group}`, (draft) =>
        sheetEdits.groupStep(draft, step.id, null),
      );
    },
    renameGroup(run: GroupRun, name: string) {
      editPart(part().id, name.trim() ? `Rename ${run.name} to ${name}` : `Take ${run.name} apart`, (draft) =>
        sheetEdits.renameGroup(draft, run.ids, name),
      );
    },
    /** Makes steps name what was found in place of what they had picked. */
    keepFound(guessed: readonly Trouble[]) {
      editPart(part().id, "Keep what was found", (draft) => {
        for (const { repair } of guessed) {
          const step = draft.steps.find(({ id }) => id === repair?.step);
          if (!step || !repair) continue;
          const before = part().steps.find(({ id }) => id === repair.step)!;
          for (const [key, value] of Object.entries(repair.set)) step[key] = withChanges(before[key], step[key], value);
        }
      });
    },
    renameBody(id: string, name: string) {
      editPart(part().id, `Rename a body to ${name || "its own name"}`, (draft) => edits.renameBody(draft, id, name));
    },
    /** Sets fields of a step as a repair says: a value, or an amount to add to a length. */
    repair(repair: Repair) {
      const open = workspace.getState().editing?.step;
      const added = repair.insert && insertedStep(part(), repair.insert, job.store.getState().job, open);
      editPart(part().id, repair.label, (draft) => {
        for (const { step: id, set } of changesOf(repair)) {
          const step = draft.steps.find((candidate) => candidate.id === id);
          if (step) Object.assign(step, repaired(step, set));
        }
        if (added) insertBefore(draft, added, repair.step);
      });
    },
  };
}

/** A list as it is now, with what another version changed in it as it was. */
function withChanges(before: unknown, now: unknown, changed: unknown): unknown {
  if (!Array.isArray(before) || !Array.isArray(now) || !Array.isArray(changed)) return changed;
  return now.map((entry, i) => (JSON.stringify(before[i]) === JSON.stringify(changed[i]) ? entry : changed[i]));
}
