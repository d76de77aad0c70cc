import { useEffect } from "react";
import { Cancelled } from "@/engine/host";
import { useJob, useStores, useWorkspace } from "./context";

/** ms without anything to do before it is asked: parts that nobody looks at may have to be built for it, and the engine does one thing at a time. */
const AT_REST = 2000;

/** Holds the bodies of the job against the fits that are wanted of them, whenever what is on the bench has become another and nothing is open. */
export function useFits(): void {
  const { engines, workspace } = useStores();
  const job = useJob((state) => state.job);
  const evaluation = useWorkspace((state) => state.evaluation);
  const isOpen = useWorkspace((state) => state.editing !== null);
  // What is to be seen comes first.
  const isIdle = useWorkspace((state) => state.engine.kind === "idle");
  useEffect(() => {
    const { set } = workspace.getState();
    if (job.fits.length === 0) {
      set({ fits: [] });
      return;
    }
    if (isOpen) return;
    set({ fits: null });
    if (!evaluation || !isIdle) return;
    let over = false;
    const ask = () =>
      engines()
        .ask("fits", { job })
        .then(
          (fits) => {
            if (!over) set({ fits });
          },
          (cause: Error) => {
            // Else a fit that was broken would be shown as one that holds.
            if (!over && !(cause instanceof Cancelled)) set({ fits: null });
          },
        );
    const timer = setTimeout(() => void ask(), AT_REST);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [job, evaluation, isOpen, isIdle, engines, workspace]);
}
