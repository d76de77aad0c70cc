import { useEffect } from "react";
import { Cancelled } from "@/engine/host";
import { useJob, useStores, useWorkspace } from "./context";

/** Holds the bodies of the job against the fits that are wanted of them, whenever what is on the bench has become another and nothing is open. */
export function useFits(): void {
  const { engines, workspace } = useStores();
  const job = useJob((state) => state.job);
  const evaluation = useWorkspace((state) => state.evaluation);
  const isOpen = useWorkspace((state) => state.editing !== null);
  useEffect(() => {
    const { set } = workspace.getState();
    if (job.fits.length === 0) {
      set({ fits: [] });
      return;
    }
    if (isOpen || !evaluation) return;
    set({ fits: null });
    let over = false;
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
    return () => {
      over = true;
    };
  }, [job, evaluation, isOpen, engines, workspace]);
}
