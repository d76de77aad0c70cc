"use client";
import { useMemo } from "react";
import { isBodyView } from "@/engine/contract";
import { beginWalk } from "../help/walk";
import { settings } from "../settings/settings";
import { useStores } from "../state/context";
import { NOTHING_MEASURED } from "../state/measuring";
import { LEAVE_WHOLE, SEE_WHOLE } from "../state/others";
import { takeView } from "../state/saved-views";
import { stepTitle } from "../state/step-title";
import { isOut, toggledView } from "../state/visibility";
import type { ViewScene } from "../viewport/scene";
import { STANDARD_VIEWS, type StandardView } from "../viewport/view-camera";
import { useActions } from "../workspace/actions";
import { TOOLS } from "../workspace/tools";
import { type Command, NAMED, type NamedCommand } from "./command";

/** All that can be asked for as things stand now. Asked anew each time: it follows the job. */
export function useCommands(scene: ViewScene | null): () => Command[] {
  const { job, workspace } = useStores();
  const actions = useActions();
  return useMemo(() => {
    const named = (id: NamedCommand, group: Command["group"], run: () => void, not: string | null = null): Command => {
      const { label, line } = NAMED[id] as { label: string; line?: string };
      return { id, label, group, ...(line ? { line } : {}), run, not };
    };
    return () => {
      const state = workspace.getState();
      const { job: document, undoLabel, redoLabel, undo, redo } = job.store.getState();
      const part = document.parts.find(({ id }) => id === state.part) ?? document.parts[0]!;
      const { set, editing, evaluation } = state;
      const items = evaluation?.items ?? [];
      const chosen = items.find(({ id }) => id === state.selected);
      const busy = editing ? "Add or discard the open step first" : null;
      const unchosen = chosen ? null : "Nothing is selected";
      const show = (id: string) => {
        const box = items.find((item) => item.id === id);
        if (box && isBodyView(box) && box.measures.box) {
          const { min, max } = box.measures.box;
          scene?.fit([min, max]);
        }
      };
      const select = (id: string) => {
        set({ selected: id, selectedFace: null });
        show(id);
      };
      return [
        ...TOOLS.map(
          (tool): Command => ({
            id: `tool:${tool.id}`,
            label: tool.label,
            group: "Tools",
            line: tool.line,
            not: busy,
            run: () => actions.begin(tool.type, tool.values),
          }),
        ),
        named("find", "Do", () => set({ dialog: "find" })),
        named("undo", "Do", () => void undo(), busy ?? (undoLabel ? null : "Nothing to undo")),
        named("redo", "Do", () => void redo(), busy ?? (redoLabel ? null : "Nothing to redo")),
        named("keep", "Do", actions.keep, editing ? null : "No step is open"),
        named("parameters", "Do", () => set({ parametersOpen: !state.parametersOpen })),
        named("measure", "Do", () => set({ measuring: state.measuring ? null : NOTHING_MEASURED, hover: null }), busy),
        named("release", "Do", () => set({ exporting: true }), busy),
        named("section", "View", () => set({ section: state.section ? null : { axis: "y", at: 0.5, flip: true } })),
        named("fit", "View", () => scene?.fit()),
        named("fit-picked", "View", () => chosen && show(chosen.id), unchosen),
        named("frame", "View", () => set({ framing: true })),
        named("hide", "View", () => chosen && set(toggledView(chosen, part, state)), unchosen),
        named(
          "alone",
          "View",
          () => chosen && set({ alone: state.alone === chosen.id ? null : chosen.id }),
          state.alone ? null : unchosen,
        ),
        named("under", "View", () => set({ deeper: state.deeper + 1 })),
        named("menu", "Do", () => set({ menu: menuAtPicked(scene, state.selected, state.selectedFace) }), unchosen),
        ...(Object.keys(STANDARD_VIEWS) as StandardView[]).map((view) =>
          named(`look-${view}`, "View", () => scene?.look(view)),
        ),
        named("views", "View", () => set({ viewsOpen: true })),
        ...part.views.map(
          (view): Command => ({
            id: `view:${view.name}`,
            label: view.name,
            group: "View",
            line: "Look at the part as it was kept under this name",
            run: () => scene && takeView(view, scene, workspace),
          }),
        ),
        named("whole", "View", () => set(state.whole ? LEAVE_WHOLE : SEE_WHOLE), busy),
        named("around", "View", () => set({ around: !state.around })),
        named("perspective", "View", () =>
          settings.getState().change({ perspective: !settings.getState().perspective }),
        ),
        named("floor", "View", () => settings.getState().change({ floor: !settings.getState().floor })),
        named("settings", "Help", () => set({ dialog: "settings" })),
        named("keys", "Help", () => set({ dialog: "keys" })),
        named("walk", "Help", () => beginWalk(set), busy),
        ...TOOLS.map(
          (tool): Command => ({
            id: `help:${tool.id}`,
            label: `How ${tool.label} works`,
            group: "Help",
            run: () => set({ dialog: { help: tool.id } }),
          }),
        ),
        ...part.steps.map(
          (step, i): Command => ({
            id: `step:${step.id}`,
            label: `${i + 1} ${stepTitle(step)}`,
            group: "Steps",
            line: "Open its form",
            not: busy,
            run: () => actions.open(step.id),
          }),
        ),
        ...items.map(
          (item): Command => ({
            id: `item:${item.id}`,
            label: item.name,
            group: "Bodies",
            line: isOut(item, part, state) ? "Select it (hidden)" : "Select it, and see it whole",
            run: () => select(item.id),
          }),
        ),
        ...document.parts.flatMap((other): Command[] =>
          other.id === part.id
            ? []
            : [
                {
                  id: `part:${other.id}`,
                  label: other.name,
                  group: "Parts",
                  line: "Work on this part",
                  not: busy,
                  run: () =>
                    set({
                      part: other.id,
                      editing: null,
                      picking: null,
                      selected: null,
                      evaluation: null,
                      alone: null,
                    }),
                },
              ],
        ),
        ...[...part.parameters, ...document.parameters].map(
          (parameter, i): Command => ({
            id: `parameter:${i}:${parameter.name}`,
            label: parameter.name,
            group: "Parameters",
            line: `= ${parameter.formula}${parameter.note ? `, ${parameter.note}` : ""}`,
            run: () => set({ parametersOpen: true }),
          }),
        ),
      ];
    };
  }, [job, workspace, actions, scene]);
}

/** Where the menu of what is selected opens: at its middle in the view. */
function menuAtPicked(scene: ViewScene | null, id: string | null, face: number | null) {
  const at = id === null ? null : scene?.middleOf(id, face);
  return at ? { ...at, hits: [{ id: id!, face }] } : null;
}
