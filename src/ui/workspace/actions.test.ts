import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { checkJob, type Job, type Step } from "@/core/job";
import { jobOf } from "@/core/testing/harness";
import type { Evaluation, ItemView } from "@/engine/contract";
import { createJobStore } from "../state/job-store";
import { createWorkspaceStore } from "../state/workspace-store";
import { actionsOn } from "./actions";

// The server is away: what is done stays in the page, which is all that is looked at here.
beforeEach(() => {
  vi.stubGlobal("fetch", async () => {
    throw new TypeError("fetch failed");
  });
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => {}, removeItem: () => {} });
});
afterEach(() => vi.unstubAllGlobals());

const BASE = [
  { id: "a", type: "box" },
  { id: "b", type: "sphere", at: [0, 0, 20] },
  { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["b"] },
  { id: "c", type: "cylinder", at: [300, 0, 0] },
];

function at(document: Job = jobOf(BASE)) {
  const job = createJobStore({ id: "j", revision: 1, document, undo: null, redo: null });
  const workspace = createWorkspaceStore("part");
  const act = actionsOn(job, workspace);
  const part = () => job.store.getState().job.parts[0]!;
  return {
    act,
    workspace,
    part,
    state: () => workspace.getState(),
    ids: () => part().steps.map(({ id }) => id),
    step: (id: string) => part().steps.find((step) => step.id === id)!,
    label: () => job.store.getState().undoLabel,
    /** Whatever was done, the document is one that can be opened again. */
    sound: () => expect(() => checkJob(JSON.parse(JSON.stringify(job.store.getState().job)))).not.toThrow(),
  };
}

const chosen = (kind: ItemView["kind"], id: string) =>
  ({ steps: [], items: [{ kind, id, step: id.split(":")[0], name: id }], noted: [] }) as unknown as Evaluation;

describe("a step is begun, kept and left", () => {
  test("what is selected is what it works on, where it takes such things", () => {
    const { act, workspace, state } = at();
    workspace.setState({ evaluation: chosen("solid", "a:block"), selected: "a:block" });
    act.begin("shell", {});
    expect(state().editing).toMatchObject({ isNew: true, step: { type: "shell", body: ["a:block"] } });
    workspace.setState({ evaluation: chosen("workplane", "w:plane"), selected: "w:plane" });
    act.begin("shell", {});
    expect(state().editing!.step.body).toEqual([]);
  });

  test("kept at the hold point as one change; what is wrong is not kept, and stays open", () => {
    const { act, state, ids, part, label, sound } = at();
    act.hold("b");
    act.begin("box", {});
    state().setValues({ size: [10, "10 parsecs", 10] });
    expect(act.canKeep()).toBe(false);
    act.keep();
    expect(ids()).toEqual(["a", "b", "s", "c"]);
    expect(state().editing).not.toBeNull();
    state().setValues({ size: [10, 20, 30] });
    expect(act.canKeep()).toBe(true);
    act.keep();
    expect(state().editing).toBeNull();
    const added = part().hold!;
    expect(ids()).toEqual(["a", "b", added, "s", "c"]);
    expect(label()).toBe("Add Block");
    sound();
  });

  test("an open step is a copy: leaving it changes nothing, keeping it changes it in its place", () => {
    const { act, state, step, ids, label } = at();
    act.open("c");
    state().setValues({ diameter: 12 });
    act.leave();
    expect(step("c").diameter).toBe(50);
    act.open("c");
    state().setValues({ diameter: 12 });
    act.keep();
    expect(step("c").diameter).toBe(12);
    expect(ids()).toEqual(["a", "b", "s", "c"]);
    expect(label()).toBe("Change Cylinder");
    act.open("gone");
    expect(state().editing).toBeNull();
  });
});

describe("steps are moved, left out and deleted", () => {
  test("a step is not moved above what it needs; why is said, and the next move takes that away", () => {
    const { act, step, ids, state } = at();
    act.move(step("s"), 0);
    expect(ids()).toEqual(["a", "b", "s", "c"]);
    expect(state().sheetTrouble).toBe(
      "“Subtract” needs what “Block” makes, so it has to stand after it. Nothing was moved.",
    );
    act.move(step("c"), 0);
    expect(ids()).toEqual(["c", "a", "b", "s"]);
    expect(state().sheetTrouble).toBeNull();
  });

  test("deleting the open step closes it; deleting another leaves it open", () => {
    const { act, step, state, ids } = at();
    act.open("c");
    act.remove(step("s"));
    expect(state().editing?.step.id).toBe("c");
    act.remove(step("c"));
    expect(state().editing).toBeNull();
    expect(ids()).toEqual(["a", "b"]);
  });

  test("a step and all that need it go as one change", () => {
    const { act, step, ids, label } = at();
    act.removeAll(step("a"), [step("s")]);
    expect(ids()).toEqual(["b", "c"]);
    expect(label()).toBe("Delete Block and what needs it");
  });

  test("left out and put back; the hold point set and taken away", () => {
    const { act, step, part, label } = at();
    act.suppress(step("b"), true);
    expect([step("b").suppressed, label()]).toEqual([true, "Leave out Sphere"]);
    act.suppress(step("b"), false);
    expect([step("b").suppressed, label()]).toEqual([false, "Put back Sphere"]);
    act.hold("b");
    expect([part().hold, label()]).toEqual(["b", "Move the hold point"]);
    act.hold(null);
    expect([part().hold, label()]).toEqual([null, "Build to the end"]);
  });
});

describe("names and groups", () => {
  test("a step gets a name, and its own back; so does a body", () => {
    const { act, step, part, label } = at();
    act.renameStep(step("a"), "  Stock ");
    expect(step("a").name).toBe("Stock");
    act.renameStep(step("a"), "");
    expect(step("a").name).toBeUndefined();
    act.renameBody("a:block", "Blank");
    expect(part().names).toEqual({ "a:block": "Blank" });
    act.renameBody("a:block", " ");
    expect(part().names).toEqual({});
    expect(label()).toBe("Rename a body to  ");
  });

  test("a step goes into the group above, or both begin one by a number that is free; out of it and renamed", () => {
    const { act, step, part, sound } = at();
    act.groupWithAbove(step("a"));
    expect(part().steps.some(({ group }) => group)).toBe(false);
    act.groupWithAbove(step("b"));
    expect([step("a").group, step("b").group]).toEqual(["Group 1", "Group 1"]);
    act.groupWithAbove(step("s"));
    expect(step("s").group).toBe("Group 1");
    act.ungroup(step("s"));
    act.groupWithAbove(step("c"));
    expect([step("s").group, step("c").group]).toEqual(["Group 2", "Group 2"]);
    act.renameGroup({ name: "Group 2", ids: ["s", "c"] }, "Cuts");
    expect([step("s").group, step("c").group]).toEqual(["Cuts", "Cuts"]);
    sound();
  });

  test("a copy stands after its step, under an id of its own", () => {
    const { act, step, ids, sound } = at();
    act.copy(step("c"));
    expect(ids().slice(0, 4)).toEqual(["a", "b", "s", "c"]);
    expect(new Set(ids()).size).toBe(5);
    expect(step(ids()[4]!)).toMatchObject({ type: "cylinder", at: [300, 0, 0] });
    sound();
  });
});

describe("repairs", () => {
  test("set what they say, in each step that they name, as one change", () => {
    const { act, step, label } = at();
    act.repair({
      label: "Make both larger",
      step: "b",
      set: { diameter: 70 },
      with: [{ step: "c", set: { height: 9 } }],
    });
    expect([step("b").diameter, step("c").height, label()]).toEqual([70, 9, "Make both larger"]);
  });

  test("of several guessed picks each takes what was found for it, and no other's", () => {
    const { act, step } = at(
      jobOf([
        { id: "a", type: "box" },
        {
          id: "r",
          type: "fillet",
          edges: [
            { body: "a:block", edge: "old1" },
            { body: "a:block", edge: "old2" },
          ],
        },
      ]),
    );
    const [one, two] = step("r").edges as Step[];
    const guessed = (set: unknown[]) => ({
      code: "edge-guessed",
      message: "",
      repair: { label: "Keep", step: "r", set: { edges: set } },
    });
    act.keepFound([
      guessed([{ ...one, edge: "new1" }, two]),
      guessed([one, { ...two, edge: "new2" }]),
      { code: "none", message: "" },
      { code: "gone", message: "", repair: { label: "", step: "nowhere", set: {} } },
    ] as never);
    expect((step("r").edges as { edge: string }[]).map(({ edge }) => edge)).toEqual(["new1", "new2"]);
  });
});
