import { applyPatches } from "immer";
import { nanoid } from "nanoid";
import { createStore } from "zustand/vanilla";
import { type Job, type JobState, makeChange, type Part, type Written } from "@/core/job";
import { ApiProblem, api } from "./api";
import { type PendingEdit, readPending, writePending } from "./pending";

export type SaveState =
  | { kind: "saved" }
  | { kind: "saving" }
  /** The server cannot be reached; edits wait here and are sent when it is back. */
  | { kind: "waiting"; message: string }
  /** Someone else wrote first. Nothing was lost on either side; a person decides. */
  | { kind: "stale"; since: { label: string; at: string }[]; mine: string[] }
  | { kind: "refused"; message: string };

export interface JobStore {
  id: string;
  revision: number;
  /** The document with all edits made here, saved or not. */
  job: Job;
  undoLabel: string | null;
  redoLabel: string | null;
  save: SaveState;
  edit(label: string, change: (draft: Job) => void): boolean;
  editPart(part: string, label: string, change: (draft: Part, job: Job) => void): boolean;
  undo(): Promise<void>;
  redo(): Promise<void>;
  /** Sends what waits. */
  flush(): Promise<void>;
  /** After a stale write: the server's job, with the waiting edits on top where they fit. */
  rebase(): Promise<void>;
  /** After a stale write: the server's job; the waiting edits are dropped. */
  takeTheirs(): Promise<void>;
  /** After a stale write: this document as a job of its own. Returns its id. */
  saveCopy(): Promise<string>;
}

const RETRY_MS = 2000;

export function createJobStore(initial: JobState) {
  let queue: PendingEdit[] = [];
  let sending: Promise<void> | null = null;
  let retry: ReturnType<typeof setTimeout> | undefined;

  const store = createStore<JobStore>()((set, get) => {
    const keep = () => writePending(get().id, { base: get().revision, edits: queue });
    const accept = ({ revision, undo, redo, patches, document }: Written) => {
      const before = get().job;
      // With edits that wait, what is shown is ahead of the server: it stays.
      const job = queue.length > 0 ? before : (document ?? (patches ? (applyPatches(before, patches) as Job) : before));
      set({ revision, undoLabel: undo, redoLabel: redo, job });
    };

    async function send(): Promise<void> {
      while (queue.length > 0) {
        const next = queue[0]!;
        set({ save: { kind: "saving" } });
        try {
          const state = await api.edit(get().id, get().revision, next);
          queue.shift();
          accept(state);
          keep();
        } catch (cause) {
          if (!problem(cause)) throw cause;
          return;
        }
      }
      set({ save: { kind: "saved" } });
    }

    /** Shows what the server said; true when it was a problem that is understood. */
    function problem(cause: unknown): boolean {
      if (!(cause instanceof ApiProblem)) return false;
      if (cause.status === 409) {
        const since = (cause.detail as { since?: { label: string; at: string }[] })?.since ?? [];
        set({ save: { kind: "stale", since, mine: queue.map((entry) => entry.label) } });
      } else if (cause.status === 0 || cause.status >= 500) {
        set({ save: { kind: "waiting", message: cause.message } });
        clearTimeout(retry);
        retry = setTimeout(() => void get().flush(), RETRY_MS);
      } else if (queue.length > 0) {
        // The server will never take this edit: take it back here, too, and say so.
        queue = [];
        keep();
        void reload({ kind: "refused", message: cause.message });
      } else set({ save: { kind: "refused", message: cause.message } });
      return true;
    }

    async function reload(save: SaveState): Promise<void> {
      const state = await api.job(get().id).catch(() => null);
      if (state) accept(state);
      set({ save });
    }

    async function travel(kind: "undo" | "redo"): Promise<void> {
      await get().flush();
      if (queue.length > 0 || get()[kind === "undo" ? "undoLabel" : "redoLabel"] === null) return;
      set({ save: { kind: "saving" } });
      try {
        accept(await api[kind](get().id, get().revision));
        set({ save: { kind: "saved" } });
      } catch (cause) {
        if (!problem(cause)) throw cause;
      }
    }

    return {
      id: initial.id,
      revision: initial.revision,
      job: initial.document,
      undoLabel: initial.undo,
      redoLabel: initial.redo,
      save: { kind: "saved" },
      edit(label, change) {
        const made = makeChange(get().job, label, change);
        if (!made) return false;
        queue.push({ label, token: nanoid(), patches: made.change.patches });
        set({ job: made.job, undoLabel: label, redoLabel: null });
        keep();
        if (get().save.kind !== "stale") void get().flush();
        return true;
      },
      editPart(part, label, change) {
        return get().edit(label, (draft) => {
          const target = draft.parts.find((candidate) => candidate.id === part);
          if (target) change(target, draft);
        });
      },
      undo: () => travel("undo"),
      redo: () => travel("redo"),
      flush() {
        sending ??= send().finally(() => {
          sending = null;
        });
        return sending;
      },
      async rebase() {
        const state = await api.job(get().id);
        const waiting = queue;
        queue = [];
        accept(state);
        let job = state.document;
        const fitting: PendingEdit[] = [];
        for (const entry of waiting) {
          try {
            job = applyPatches(job, entry.patches) as Job;
            fitting.push(entry);
          } catch {
            // An edit of something that is gone.
          }
        }
        queue = fitting;
        set({ job, save: { kind: "saved" } });
        keep();
        await get().flush();
      },
      async takeTheirs() {
        queue = [];
        keep();
        accept(await api.job(get().id));
        set({ save: { kind: "saved" } });
      },
      async saveCopy() {
        const { job } = get();
        const copy = await api.create({ document: { ...job, name: `${job.name} (copy)` } });
        queue = [];
        keep();
        return copy.id;
      },
    };
  });

  return {
    store,
    /** Takes up edits that an earlier page could not send. Called once in the browser. */
    resume() {
      const left = readPending(initial.id);
      if (!left || queue.length > 0) return;
      const { job, revision } = store.getState();
      let next = job;
      try {
        for (const { patches } of left.edits) next = applyPatches(next, patches) as Job;
      } catch {
        writePending(initial.id, null);
        return;
      }
      queue = left.edits;
      store.setState({ job: next });
      if (left.base === revision) void store.getState().flush();
      else store.setState({ save: { kind: "stale", since: [], mine: queue.map((entry) => entry.label) } });
    },
    dispose() {
      clearTimeout(retry);
    },
  };
}

export type JobStoreHandle = ReturnType<typeof createJobStore>;
