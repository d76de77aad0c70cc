import { useEffect } from "react";
import { linkOf } from "@/core/job";
import { Cancelled } from "@/engine/host";
import { useJob, useStores, useWorkspace } from "./context";

/** ms without anything to do before it is asked: parts may have to be built for it, as they are and as they were. */
const AT_REST = 1200;

/** Holds all that parts bring in against what it is of, whenever the job has become another and nothing is open. */
export function useLinks(): void {
  const { engines, workspace } = useStores();
  const job = useJob((state) => state.job);
  const isOpen = useWorkspace((state) => state.editing !== null);
  const isIdle = useWorkspace((state) => state.engine.kind === "idle");
  const any = job.parts.some(({ steps }) => steps.some((step) => linkOf(step)));
  useEffect(() => {
    const { set } = workspace.getState();
    if (!any) {
      set({ links: [] });
      return;
    }
    if (isOpen || !isIdle) return;
    let over = false;
    const timer = setTimeout(() => {
      engines()
        .ask("links", { job })
        .then(
          (links) => {
            if (!over) set({ links });
          },
          (cause: Error) => {
            // Else what is behind would be shown as if it were not.
            if (!over && !(cause instanceof Cancelled)) set({ links: null });
          },
        );
    }, AT_REST);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [job, any, isOpen, isIdle, engines, workspace]);
}
