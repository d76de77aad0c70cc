import { useEffect } from "react";
import { useStores, useWorkspace } from "./context";

/** Looks for what the body of the open step is in on its way, once that is played: of what is shown, whenever that has become another. */
export function useContacts(): void {
  const { engines, workspace } = useStores();
  const job = useWorkspace((state) => state.evaluatedJob);
  const part = useWorkspace((state) => state.part);
  const step = useWorkspace((state) => state.editing?.step.id ?? null);
  const isPlayed = useWorkspace((state) => state.playing !== null);
  const isIdle = useWorkspace((state) => state.engine.kind === "idle");
  useEffect(() => {
    const { contacts, set } = workspace.getState();
    if (!job || step === null || !isPlayed || !isIdle || contacts?.job === job) return;
    let over = false;
    engines()
      .ask("contacts", { job, part, step })
      .catch(() => null)
      .then((found) => {
        if (!over) set({ contacts: { job, found } });
      });
    return () => {
      over = true;
    };
  }, [job, part, step, isPlayed, isIdle, engines, workspace]);
}
