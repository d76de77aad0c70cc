import { useEffect } from "react";
import { unpack } from "@/core/evaluate/pack";
import { viewKey } from "@/core/evaluate/view-key";
import type { Job } from "@/core/job";
import type { Evaluation } from "@/engine/contract";
import { Cancelled } from "@/engine/host";
import { api } from "./api";
import { useJob, useStores, useWorkspace } from "./context";
import { type OtherPart, otherPart } from "./others";
import { takeMeshes } from "./stored-views";

/** ms of rest before another part is built round the one that is worked on. */
const AT_REST = 400;
/** ms in which what comes in is shown together. */
const TOGETHER = 1000;

/** Keeps what is known of the other parts in step with the job, while they are looked at: what an earlier visit stored, else built now, one after the other. */
export function useOthers(): void {
  const { engines, workspace } = useStores();
  const job = useJob((state) => state.job);
  const part = useWorkspace((state) => state.part);
  const whole = useWorkspace((state) => state.whole);
  const looking = useWorkspace((state) => state.whole || state.around);
  // What is worked on comes first.
  const isIdle = useWorkspace((state) => state.engine.kind === "idle");
  useEffect(() => {
    if (!looking || !isIdle) return;
    let over = false;
    // Put together what comes in one after the other: all that is shown is drawn anew for it.
    const found = new Map<string, OtherPart>();
    let shownAt = 0;
    const show = () => {
      if (found.size === 0) return;
      const { others, set } = workspace.getState();
      set({ others: new Map([...others, ...found].filter(([id]) => has(job, id))) });
      found.clear();
      shownAt = performance.now();
    };
    const put = (id: string, other: OtherPart) => {
      found.set(id, other);
      if (performance.now() - shownAt > TOGETHER) show();
    };
    const load = async () => {
      for (const one of job.parts) {
        if (over) return;
        const key = viewKey(job, one);
        if (one.id === part || workspace.getState().others.get(one.id)?.key === key) continue;
        try {
          let made: Evaluation | null = await stored(key);
          if (!made && !over) {
            // Whoever works on a part is not kept waiting by others: each is asked for only while nothing else is done.
            if (!whole) await new Promise((done) => setTimeout(done, AT_REST));
            if (over) return;
            made = (await engines().ask("evaluate", { job, part: one.id, known: [] })) as Evaluation;
          }
          if (made && !over) put(one.id, otherPart(key, made, takeMeshes(made, new Map())));
        } catch (cause) {
          if (cause instanceof Cancelled || over) return;
          put(one.id, {
            key,
            items: [],
            meshes: new Map(),
            trouble: cause instanceof Error ? cause.message : String(cause),
          });
        }
      }
    };
    void load().finally(() => {
      if (!over) show();
    });
    return () => {
      over = true;
    };
  }, [job, part, whole, looking, isIdle, engines, workspace]);
}

const has = (job: Job, id: string) => job.parts.some((part) => part.id === id);

async function stored(key: string): Promise<Evaluation | null> {
  const bytes = await api.stored(key).catch(() => null);
  if (!bytes) return null;
  try {
    return unpack(bytes) as Evaluation;
  } catch {
    return null;
  }
}
