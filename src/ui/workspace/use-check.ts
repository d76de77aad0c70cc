"use client";
import { useEffect } from "react";
import { Cancelled } from "@/engine/host";
import { useStores, useWorkspace } from "../state/context";

/** Has the open check done whenever it, or what is on the bench, becomes another. */
export function useCheck(): void {
  const { engines, job, workspace } = useStores();
  const id = useWorkspace((state) => state.checking?.id);
  const values = useWorkspace((state) => state.checking?.values);
  const evaluation = useWorkspace((state) => state.evaluation);
  useEffect(() => {
    if (!id || !evaluation) return;
    let over = false;
    const tell = (more: object) => {
      const { checking, set } = workspace.getState();
      if (!over && checking?.id === id && checking.values === values) set({ checking: { ...checking, ...more } });
    };
    engines()
      .ask("check", { job: job.store.getState().job, part: workspace.getState().part, check: id, values })
      .then(
        (result) => tell({ result, trouble: null }),
        (cause: Error) => {
          if (!(cause instanceof Cancelled)) tell({ result: null, trouble: cause.message });
        },
      );
    return () => {
      over = true;
    };
  }, [id, values, evaluation, engines, job, workspace]);
}
