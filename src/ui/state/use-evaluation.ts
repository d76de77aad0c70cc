"use client";
import { useEffect, useMemo, useRef } from "react";
import { pack } from "@/core/evaluate/pack";
import { viewKey } from "@/core/evaluate/view-key";
import { type Evaluation, isBodyView, type ViewMesh } from "@/engine/contract";
import { Cancelled, type EngineHost } from "@/engine/host";
import { api } from "./api";
import { useJob, useStores, useWorkspace } from "./context";
import { withDragged } from "./handles";
import { Newest } from "./newest";
import { problemsOf, scopeIn, withOpenStep } from "./open-values";
import { ProgressTeller } from "./progress";
import { handRests, LATE, Roughly, type Wanted } from "./roughly";
import { withSamePieces } from "./same-pieces";
import { withSameReports } from "./same-reports";
import { StoredViews, takeMeshes } from "./stored-views";
import type { WorkspaceStoreApi } from "./workspace-store";

/**
 * What is under way is stopped for something newer once it has run for this long, ms. It costs the engine all that it keeps, so
 * what ends in a moment is waited for.
 */
const PATIENCE = 4000;

/**
 * Keeps what is shown in step with the job and the open step: change → document → evaluate → view. A change is computed at once;
 * while another is, the newest waits. At first what an earlier visit stored is shown, before the kernel has even loaded.
 */
export function useEvaluation(): { stop(): void; again(): void } {
  const { workspace, engines } = useStores();
  const job = useJob((state) => state.job);
  const part = useWorkspace((state) => state.part);
  const editing = useWorkspace((state) => state.editing);
  const dragged = useWorkspace((state) => state.dragged);
  const inHand = useWorkspace((state) => state.inHand);
  const stored = useMemo(() => new StoredViews(workspace), [workspace]);
  const newest = useMemo(() => {
    const all: Newest<Wanted> = new Newest(
      evaluation(workspace, engines, stored, () => all.waits),
      PATIENCE,
    );
    return all;
  }, [workspace, engines, stored]);
  const again = () => {
    if (editing && Object.keys(problemsOf(editing.step, scopeIn(job, part))).length > 0) return;
    // Not when its turn comes: the engine may still be at the part that was shown before.
    if (!editing) void stored.show(job, part);
    newest.put({ job: withDragged(job, part, dragged), part, editing, dragged: dragged !== null || inHand });
  };
  const latest = useRef(again);
  latest.current = again;
  useEffect(() => latest.current(), [job, part, editing, dragged, inHand, newest]);
  useEffect(() => () => newest.stop(), [newest]);
  return { stop: () => newest.stop(), again: () => latest.current() };
}

/** The way from what is wanted to what is shown. */
function evaluation(
  workspace: WorkspaceStoreApi,
  engines: () => EngineHost,
  views: StoredViews,
  /** Whether something newer is wanted already. */
  waits: () => boolean,
) {
  /** The keys of what an earlier visit stored, and of which view. */
  let stored: { view: string; keys: string[] } | null = null;
  const triangles = new Roughly(workspace, engines, waits);
  /** Whether it is still what the workspace is about: the same part, with the same step open. */
  const isWanted = ({ part, editing }: Wanted) => {
    const now = workspace.getState();
    return now.part === part && now.editing?.step.id === editing?.step.id;
  };

  const show = async (wanted: Wanted, signal: AbortSignal, begun: () => void): Promise<void> => {
    const { part, editing, dragged: brisk } = wanted;
    const job = editing ? withOpenStep(wanted.job, part, editing) : wanted.job;
    const shown = job.parts.find((candidate) => candidate.id === part);
    // An undo may have taken the part away; the workspace is about to show another.
    if (!shown || !isWanted(wanted)) return;
    const view = editing || brisk ? null : viewKey(job, shown);
    if (view && workspace.getState().evaluation === null) {
      const found = await views.show(job, part);
      if (found) stored = { view, keys: found.steps.flatMap((step) => (step.key ? [step.key] : [])) };
    }
    let over = false;
    const teller = new ProgressTeller(workspace);
    teller.begin(shown.steps.length);
    let lateness: ReturnType<typeof setTimeout> | undefined;
    try {
      if (await triangles.show(wanted, job, signal)) return;
      lateness = setTimeout(() => workspace.setState({ late: true }), LATE);
      const asked = performance.now();
      const { meshes, evaluation: shownBefore } = workspace.getState();
      const pieces = shownBefore?.pieces ?? [];
      const sent = await engines().ask(
        "evaluate",
        {
          job,
          part,
          known: [...meshes.keys(), ...pieces.map(({ meshId }) => meshId)],
          storedKeys: stored?.keys ?? [],
          ...(editing ? { upTo: editing.step.id, pieces: editing.step.id } : {}),
          ...(brisk ? { brisk } : {}),
        },
        {
          progress: ({ done, total, stage }) => {
            begun();
            // A word of progress may arrive after the result itself: it comes by another way.
            if (!over) teller.tell(done, total, stage);
          },
          signal,
        },
      );
      over = true;
      triangles.took(wanted, performance.now() - asked);
      teller.end();
      if (!isWanted(wanted)) {
        workspace.setState({ engine: { kind: "idle" } });
        return;
      }
      const { pieces: arrived, ...rest } = sent;
      const made: Evaluation = { ...rest, ...(arrived ? { pieces: withSamePieces(arrived, pieces) } : {}) };
      const all = takeMeshes(made, meshes);
      made.steps = withSameReports(made.steps, workspace.getState().evaluation?.steps);
      workspace.setState({
        evaluation: made,
        evaluatedFor: editing?.step.id ?? null,
        evaluatedJob: job,
        late: workspace.getState().late && waits(),
        rough: null,
        meshes: all,
        engine: { kind: "idle" },
      });
      if (view && stored?.view !== view)
        storeView(view, made, all, (keys) => {
          stored = { view, keys };
        });
      // Held still where something fails: what would do is looked for.
      if (brisk && made.steps.some(({ state }) => state === "failed") && (await handRests(waits)))
        await show({ ...wanted, dragged: false }, signal, begun);
    } catch (cause) {
      over = true;
      teller.end();
      workspace.setState({ late: false, rough: null });
      if (cause instanceof Cancelled) workspace.setState({ engine: { kind: "stopped" } });
      else
        workspace.setState({
          engine: { kind: "failed", message: cause instanceof Error ? cause.message : String(cause) },
        });
    } finally {
      clearTimeout(lateness);
    }
  };
  return show;
}

function storeView(
  key: string,
  evaluation: Evaluation,
  meshes: Map<string, ViewMesh>,
  done: (keys: string[]) => void,
): void {
  const whole: Evaluation = {
    ...evaluation,
    items: evaluation.items.map((item) => (!isBodyView(item) ? item : { ...item, mesh: meshes.get(item.meshId)! })),
  };
  const keys = evaluation.steps.flatMap((step) => (step.key ? [step.key] : []));
  void api.store(key, pack(whole)).then(() => done(keys));
}
