"use client";
import { useEffect } from "react";
import type { CheckResult } from "@/core/check";
import { Cancelled } from "@/engine/host";
import { type Checking, lineOf } from "../state/checking";
import { useStores, useWorkspace } from "../state/context";

/** The line of a new result that is about what is looked at. */
function sameLine(checking: Checking | null, { found }: CheckResult): number | null {
  const line = lineOf(checking);
  if (!line) return null;
  const at = found.findIndex(
    ({ body, pair, faces }) =>
      body === line.body && pair?.other.body === line.pair?.other.body && (pair || faces.join() === line.faces.join()),
  );
  return at < 0 ? null : at;
}

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
        (result) => tell({ result: result, trouble: null, line: sameLine(workspace.getState().checking, result) }),
        (cause: Error) => {
          if (!(cause instanceof Cancelled)) tell({ result: null, trouble: cause.message });
        },
      );
    return () => {
      over = true;
    };
  }, [id, values, evaluation, engines, job, workspace]);
}
