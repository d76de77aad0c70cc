import { afterEach, describe, expect, test, vi } from "vitest";
import { pack } from "@/core/evaluate/pack";
import { jobOf } from "@/core/testing/harness";
import type { Evaluation } from "@/engine/contract";
import { api } from "./api";
import { StoredViews } from "./stored-views";
import { createWorkspaceStore } from "./workspace-store";

const stored = { steps: [], items: [{ kind: "workplane", id: "w:plane" }], noted: [] } as unknown as Evaluation;
const job = jobOf([{ id: "w", type: "workplane" }]);
const part = job.parts[0]!.id;

afterEach(() => vi.restoreAllMocks());

function asked(bytes: Uint8Array | null, wait: Promise<unknown> = Promise.resolve()) {
  const workspace = createWorkspaceStore(part);
  const fetched = vi.spyOn(api, "stored").mockImplementation(async () => {
    await wait;
    return bytes;
  });
  return { workspace, fetched, views: new StoredViews(workspace) };
}

describe("what an earlier visit stored", () => {
  test("is shown at once, and fetched once however often it is asked for", async () => {
    const { workspace, fetched, views } = asked(pack(stored));
    await Promise.all([views.show(job, part), views.show(job, part)]);
    expect(workspace.getState().evaluation?.items).toHaveLength(1);
    expect(fetched).toHaveBeenCalledTimes(1);
  });

  test("never takes the place of what was built, nor comes up under another part or an open step", async () => {
    for (const change of [
      { evaluation: { steps: [], items: [], noted: [] } },
      { part: "other" },
      { editing: { step: job.parts[0]!.steps[0]!, isNew: false } },
    ]) {
      let answer = () => {};
      const { workspace, views } = asked(pack(stored), new Promise<void>((resolve) => (answer = resolve)));
      const showing = views.show(job, part);
      workspace.setState(change as never);
      answer();
      await showing;
      expect(workspace.getState().evaluation?.items ?? []).toHaveLength(0);
    }
  });

  test("that is not there, or damaged, shows nothing", async () => {
    for (const bytes of [null, new Uint8Array([1, 2, 3])]) {
      const { workspace, views } = asked(bytes);
      expect(await views.show(job, part)).toBeNull();
      expect(workspace.getState().evaluation).toBeNull();
    }
  });
});
