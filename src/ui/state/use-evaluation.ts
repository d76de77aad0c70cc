"use client";
import { useEffect, useRef } from "react";
import { pack, unpack } from "@/core/build/pack";
import { viewKey } from "@/core/build/view-key";
import { checkJob } from "@/core/job";
import { type Evaluation, isBodyView, type ViewMesh } from "@/engine/contract";
import { Cancelled } from "@/engine/host";
import { api } from "./api";
import { useJob, useStores, useWorkspace } from "./context";
import { problemsOf, scopeIn, withDraft } from "./draft";
import { withSamePieces } from "./same-pieces";
import type { WorkspaceStoreApi } from "./workspace-store";

/** A newer request stops an older one that has run for longer than this, ms. */
const PATIENCE = 1500;

/**
 * Keeps what is shown in step with the job and the open step: change → document → evaluate → view.
 * At first what an earlier visit stored is shown, before the kernel has even loaded.
 */
export function useEvaluation(): { stop(): void; again(): void } {
  const { workspace, engines } = useStores();
  const job = useJob((state) => state.job);
  const part = useWorkspace((state) => state.part);
  const editing = useWorkspace((state) => state.editing);
  const running = useRef<{ abort: AbortController; since: number } | null>(null);
  const turn = useRef(0);
  const storedKeys = useRef<{ view: string; keys: string[] } | null>(null);
  const request = useRef<() => void>(() => {});

  useEffect(() => {
    const run = () => {
      const mine = ++turn.current;
      if (editing && Object.keys(problemsOf(editing.step, scopeIn(job, part))).length > 0) return;
      const draft = editing ? withDraft(job, part, editing) : job;
      void evaluate(mine, draft);
    };

    async function evaluate(mine: number, draft: typeof job): Promise<void> {
      const shown = draft.parts.find((candidate) => candidate.id === part);
      // An undo may have taken the part away; the workspace is about to show another.
      if (!shown) return;
      const key = viewKey(draft, shown);
      if (!editing && workspace.getState().evaluation === null) {
        const stored = await showStored(key, workspace);
        if (mine !== turn.current) return;
        if (stored)
          storedKeys.current = { view: key, keys: stored.steps.flatMap((step) => (step.key ? [step.key] : [])) };
      }
      const old = running.current;
      if (old) {
        const left = PATIENCE - (performance.now() - old.since);
        if (left > 0) await new Promise((resolve) => setTimeout(resolve, Math.min(left, 60)));
        if (mine !== turn.current) return;
        if (running.current === old && performance.now() - old.since > PATIENCE) old.abort.abort();
      }
      const abort = new AbortController();
      const entry = { abort, since: performance.now() };
      running.current = entry;
      const tell = (done: number, total: number, stage?: string) => {
        const { engine } = workspace.getState();
        if (engine.kind === "computing" && stage !== undefined) engine.stage = stage;
        else workspace.setState({ engine: { kind: "computing", done, total, since: performance.now() } });
      };
      tell(0, shown.steps.length);
      try {
        const { meshes } = workspace.getState();
        const evaluation = await engines().ask(
          "evaluate",
          {
            job: checkJob(JSON.parse(JSON.stringify(draft))),
            part,
            known: [...meshes.keys()],
            storedKeys: storedKeys.current?.keys ?? [],
            ...(editing ? { upTo: editing.step.id, pieces: editing.step.id } : {}),
          },
          {
            progress: ({ done, total, stage }) => {
              // A word of progress may arrive after the result itself: it comes by another way.
              if (running.current === entry) tell(done, total, stage);
            },
            signal: abort.signal,
          },
        );
        if (running.current === entry) running.current = null;
        const all = takeMeshes(evaluation, meshes);
        if (mine !== turn.current) return;
        if (evaluation.pieces)
          evaluation.pieces = withSamePieces(evaluation.pieces, workspace.getState().evaluation?.pieces);
        workspace.setState({
          evaluation,
          evaluatedFor: editing?.step.id ?? null,
          meshes: all,
          engine: { kind: "idle" },
        });
        if (!editing && storedKeys.current?.view !== key)
          storeView(key, evaluation, all, (keys) => (storedKeys.current = { view: key, keys }));
      } catch (cause) {
        if (mine !== turn.current) return;
        if (cause instanceof Cancelled) workspace.setState({ engine: { kind: "stopped" } });
        else
          workspace.setState({
            engine: { kind: "failed", message: cause instanceof Error ? cause.message : String(cause) },
          });
      } finally {
        if (running.current === entry) running.current = null;
      }
    }

    request.current = run;
    const timer = setTimeout(run, editing ? 120 : 0);
    return () => clearTimeout(timer);
  }, [job, part, editing, workspace, engines]);

  return {
    stop: () => running.current?.abort.abort(),
    again: () => request.current(),
  };
}

/** Adds the new meshes of an evaluation and drops those that nothing shows any more. */
function takeMeshes(evaluation: Evaluation, before: Map<string, ViewMesh>): Map<string, ViewMesh> {
  const meshes = new Map<string, ViewMesh>();
  for (const item of [...evaluation.items, ...(evaluation.before ?? [])]) {
    if (!isBodyView(item)) continue;
    const mesh = item.mesh ?? before.get(item.meshId);
    if (mesh && !meshes.has(item.meshId)) meshes.set(item.meshId, mesh);
  }
  return meshes;
}

async function showStored(key: string, workspace: WorkspaceStoreApi): Promise<Evaluation | null> {
  const bytes = await api.stored(key);
  if (!bytes) return null;
  try {
    const evaluation = unpack(bytes) as Evaluation;
    if (workspace.getState().evaluation === null)
      workspace.setState({ evaluation, meshes: takeMeshes(evaluation, new Map()) });
    return evaluation;
  } catch {
    return null;
  }
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
