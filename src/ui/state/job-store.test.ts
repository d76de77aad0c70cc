import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { applyChange, emptyJob, type Job, type JobState } from "@/core/job";
import { createJobStore } from "./job-store";
import { readPending } from "./pending";

/** A small stand-in for the server: one job, its revision, and what it has been told to answer. */
class Server {
  job: Job = emptyJob("One");
  revision = 1;
  down = false;
  loseAnswers = 0;
  tokens = new Set<string>();
  edits = 0;

  state = (): JobState => ({
    id: "j",
    revision: this.revision,
    document: structuredClone(this.job),
    undo: this.edits ? "edit" : null,
    redo: null,
  });

  answer = async (path: string, init?: RequestInit): Promise<Response> => {
    if (this.down) throw new TypeError("fetch failed");
    if (path.endsWith("/changes")) {
      const { base, token, patches } = JSON.parse(String(init?.body));
      if (!this.tokens.has(token)) {
        if (base !== this.revision)
          return Response.json(
            {
              code: "stale",
              message: "changed",
              detail: { revision: this.revision, since: [{ label: "Theirs", at: "" }] },
            },
            { status: 409 },
          );
        try {
          this.job = applyChange(this.job, patches).job;
        } catch (cause) {
          return Response.json({ code: "bad", message: (cause as Error).message }, { status: 422 });
        }
        this.revision++;
        this.edits++;
        this.tokens.add(token);
      }
      if (this.loseAnswers > 0) {
        this.loseAnswers--;
        throw new TypeError("connection reset");
      }
    }
    return Response.json(this.state());
  };

  /** Another tab's edit. */
  elsewhere(name: string): void {
    this.job = { ...this.job, name };
    this.revision++;
  }
}

let server: Server;
const kept = new Map<string, string>();
beforeEach(() => {
  server = new Server();
  kept.clear();
  vi.stubGlobal("fetch", server.answer);
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
});
afterEach(() => vi.unstubAllGlobals());

const rename = (name: string) => (draft: Job) => {
  draft.name = name;
};
const part = (name: string) => (draft: Job) => {
  draft.parts[0]!.name = name;
};
const settle = async (handle: ReturnType<typeof createJobStore>) => {
  await handle.store.getState().flush();
  return handle.store.getState();
};

describe("edits on their way to the server", () => {
  test("show at once, go out in order, and end saved", async () => {
    const handle = createJobStore(server.state());
    handle.store.getState().edit("a", rename("A"));
    handle.store.getState().edit("b", part("B"));
    expect(handle.store.getState().job).toMatchObject({ name: "A", parts: [{ name: "B" }] });
    const state = await settle(handle);
    expect(state.save.kind).toBe("saved");
    expect(server.job).toMatchObject({ name: "A", parts: [{ name: "B" }] });
    expect(state.revision).toBe(3);
    expect(readPending("j")).toBeNull();
  });

  test("an edit that changes nothing is none", () => {
    const handle = createJobStore(server.state());
    expect(handle.store.getState().edit("same", rename("One"))).toBe(false);
  });

  test("wait in the browser while the server is away, also for the next page", async () => {
    server.down = true;
    const handle = createJobStore(server.state());
    handle.store.getState().edit("a", rename("A"));
    expect((await settle(handle)).save.kind).toBe("waiting");
    handle.dispose();
    server.down = false;
    const next = createJobStore(server.state());
    expect(next.store.getState().job.name).toBe("One");
    next.resume();
    expect((await settle(next)).job.name).toBe("A");
    expect(server.job.name).toBe("A");
  });

  test("an answer that gets lost does not make a conflict of the sender's own edit", async () => {
    server.loseAnswers = 1;
    const handle = createJobStore(server.state());
    handle.store.getState().edit("a", rename("A"));
    expect((await settle(handle)).save.kind).toBe("waiting");
    handle.dispose();
    const state = await settle(handle);
    expect(state.save.kind).toBe("saved");
    expect(server.edits).toBe(1);
    expect(state.revision).toBe(2);
  });

  test("an edit that the server will never take is taken back here, and it says why", async () => {
    const handle = createJobStore(server.state());
    handle.store.getState().edit("bad", (draft) => {
      draft.parts = [];
    });
    await settle(handle);
    await vi.waitFor(() => expect(handle.store.getState().save.kind).toBe("refused"));
    expect(handle.store.getState().job.parts).toHaveLength(1);
    expect(readPending("j")).toBeNull();
  });
});

describe("someone else wrote first", () => {
  async function stale() {
    const handle = createJobStore(server.state());
    server.elsewhere("Theirs");
    handle.store.getState().edit("mine", part("Mine"));
    const state = await settle(handle);
    expect(state.save).toMatchObject({ kind: "stale", since: [{ label: "Theirs" }], mine: ["mine"] });
    expect(server.job.name).toBe("Theirs");
    return handle;
  }

  test("mine goes on top of theirs", async () => {
    const handle = await stale();
    await handle.store.getState().rebase();
    expect(handle.store.getState().save.kind).toBe("saved");
    expect(server.job).toMatchObject({ name: "Theirs", parts: [{ name: "Mine" }] });
    expect(handle.store.getState().job).toEqual(server.job);
  });

  test("mine is dropped only when I say so", async () => {
    const handle = await stale();
    expect(readPending("j")!.edits).toHaveLength(1);
    await handle.store.getState().takeTheirs();
    expect(handle.store.getState().job).toMatchObject({ name: "Theirs", parts: [{ name: "Part 1" }] });
    expect(readPending("j")).toBeNull();
  });

  test("further edits wait with the first instead of being lost", async () => {
    const handle = await stale();
    handle.store.getState().edit("more", rename("More"));
    expect(readPending("j")!.edits.map((edit) => edit.label)).toEqual(["mine", "more"]);
    await handle.store.getState().rebase();
    expect(server.job).toMatchObject({ name: "More", parts: [{ name: "Mine" }] });
  });
});
