"use client";
import { useEffect } from "react";
import { HelpDialog } from "../help/help-dialog";
import { settings } from "../settings/settings";
import { SettingsDialog } from "../settings/settings-dialog";
import { useStores } from "../state/context";
import type { ViewScene } from "../viewport/scene";
import { useActions } from "../workspace/actions";
import { STAGE_LIST } from "../workspace/tools";
import { commandFor } from "./command";
import { FindDialog } from "./find-dialog";
import { isTyping, keyOf } from "./keys";
import { useCommands } from "./use-commands";

/** What can be asked for by keys, and by typing. */
export function Commands({ scene }: { scene: ViewScene | null }) {
  const commands = useCommands(scene);
  useKeys(commands);
  return (
    <>
      <FindDialog commands={commands} />
      <SettingsDialog commands={commands} />
      <HelpDialog />
    </>
  );
}

/** Keys that work anywhere outside of what takes them itself. */
function useKeys(commands: ReturnType<typeof useCommands>): void {
  const { workspace } = useStores();
  const actions = useActions();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const key = keyOf(event);
      if (key === null) return;
      const id = commandFor(key, settings.getState().keys);
      // A box to be ticked keeps Enter from the form, and means no more by it.
      if (event.defaultPrevented && id !== "keep") return;
      const state = workspace.getState();
      if (key === "Escape") {
        if (!state.exporting && state.dialog === null) stepBack(state, actions.leave);
        return;
      }
      // What is typed into goes on taking what is typed, but for what keeps the form and finds anything by Ctrl.
      if (isTyping(event.target) && !(id === "keep" || (id === "find" && key.startsWith("Ctrl")))) return;
      // What is drawn takes letters and digits itself.
      const draws = state.editing?.step.type === "sketch" && state.picking === null;
      if (draws && key.length === 1 && id !== "find" && id !== "keys") return;
      const stage = !state.editing && /^\d$/.test(key) ? STAGE_LIST[Number(key) - 1] : undefined;
      if (id === null && stage) {
        event.preventDefault();
        if (stage.stage === "release") state.set({ exporting: true, stage: null });
        else {
          state.set({ stage: state.stage === stage.stage ? null : stage.stage });
          // So that the arrow keys go on from there.
          requestAnimationFrame(() =>
            document.querySelector<HTMLElement>("section[aria-label$=' tools'] li button")?.focus(),
          );
        }
        return;
      }
      const command = id === null ? undefined : commands().find((one) => one.id === id);
      if (!command) return;
      event.preventDefault();
      if (!command.not) command.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [workspace, actions, commands]);
}

/** Escape leaves one thing at a time: the innermost first. */
function stepBack(state: ReturnType<ReturnType<typeof useStores>["workspace"]["getState"]>, leave: () => void): void {
  const { set, picking, menu, framing, parametersOpen, measuring, checking, editing } = state;
  if (menu) set({ menu: null });
  else if (framing) set({ framing: false });
  else if (picking !== null) set({ picking: null });
  else if (parametersOpen) set({ parametersOpen: false });
  else if (measuring) set({ measuring: null });
  else if (checking) set({ checking: null });
  else if (editing) leave();
  else set({ selected: null, stage: null, alone: null });
}
