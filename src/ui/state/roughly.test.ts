import { beforeEach, describe, expect, test } from "vitest";
import type { Job, Step } from "@/core/job";
import { jobOf } from "@/core/testing/harness";
import type { Operations, RoughPieces } from "@/engine/contract";
import { Cancelled } from "@/engine/host";
import { Roughly, type Wanted } from "./roughly";
import { createWorkspaceStore, type WorkspaceStoreApi } from "./workspace-store";

const steps = (diameter: number, offset = 0) => [
  { id: "a", type: "box", size: [60, 40, 20] },
  { id: "b", type: "cylinder", diameter, height: 30 },
  { id: "w", type: "workplane", base: "yz", offset },
  { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["b", "w"] },
];
const job = (diameter: number, offset?: number): Job => jobOf(steps(diameter, offset));
const nothing: RoughPieces = { pieces: [], within: 0.2, items: [], took: 50 };

let workspace: WorkspaceStoreApi;
let asked: Operations["rough"]["asks"][];
let answer: () => Promise<RoughPieces | null>;
let waiting: boolean;
let roughly: Roughly;

const open = { step: job(10).parts[0]!.steps.at(-1) as Step, isNew: false };
const wanted = (of: Job, dragged = true): Wanted => ({ job: of, part: "part", editing: open, dragged });
const show = (of: Job, dragged?: boolean) => roughly.show(wanted(of, dragged), of, new AbortController().signal);

beforeEach(() => {
  workspace = createWorkspaceStore("part");
  workspace.setState({ editing: open, evaluatedJob: job(10) });
  asked = [];
  waiting = true;
  answer = async () => nothing;
  const ask = (_: string, request: Operations["rough"]["asks"]) => {
    asked.push(request);
    return answer();
  };
  roughly = new Roughly(
    workspace,
    () => ({ ask }) as never,
    () => waiting,
  );
});

describe("what is shown by triangles of a step that is open", () => {
  test("nothing in time, nor before it is known how long what is exact takes", async () => {
    expect(await show(job(11))).toBe(false);
    roughly.took(wanted(job(10)), 60);
    expect(await show(job(11))).toBe(false);
    expect(asked).toHaveLength(0);
  });

  test("where it takes long: every movement, and what is exact once the hand rests", async () => {
    roughly.took(wanted(job(10)), 400);
    expect(await show(job(11))).toBe(true);
    expect(asked).toMatchObject([{ part: "part", step: "s" }]);
    expect(workspace.getState().rough).toMatchObject({ step: "s", within: 0.2 });
    waiting = false;
    expect(await show(job(12))).toBe(false);
    expect(asked).toHaveLength(2);
    // Typed, it is not waited whether more comes.
    waiting = true;
    expect(await show(job(13), false)).toBe(false);
    expect(asked).toHaveLength(3);
  });

  test("not where only the step's own values are others, where it is kept as it was dragged to, or where a plane alone has moved", async () => {
    const now = job(10);
    roughly.took(wanted(now), 400);
    expect(await show(now)).toBe(false);
    expect(await show(job(10), false)).toBe(false);
    workspace.setState({
      evaluation: {
        steps: [],
        items: [],
        noted: [],
        before: [{ id: "w:plane", step: "w", kind: "workplane", origin: [0, 0, 0], normal: [1, 0, 0] }] as never,
      },
    });
    expect(await show(job(10, 3))).toBe(false);
    expect(asked).toHaveLength(0);
    expect(await show(job(11, 3))).toBe(true);
  });

  test("not again where there are none of it, or they take longer than what is exact; of another step they are tried anew", async () => {
    roughly.took(wanted(job(10)), 400);
    answer = async () => null;
    expect(await show(job(11))).toBe(false);
    expect(workspace.getState().rough).toBeNull();
    roughly.took(wanted(job(11)), 400);
    answer = async () => nothing;
    expect(await show(job(12))).toBe(false);
    expect(asked).toHaveLength(1);
    const other = { ...open, step: { ...open.step, id: "t" } };
    workspace.setState({ editing: other });
    roughly.took({ ...wanted(job(12)), editing: other }, 400);
    const of = job(13);
    expect(await roughly.show({ ...wanted(of), editing: other }, of, new AbortController().signal)).toBe(true);

    workspace.setState({ editing: open });
    roughly.took(wanted(job(10)), 125);
    answer = async () => ({ ...nothing, took: 140 });
    for (const diameter of [11, 12, 13, 14]) expect(await show(job(diameter))).toBe(true);
    expect(await show(job(15))).toBe(false);
    // What is exact takes longer than they do, now.
    roughly.took(wanted(job(15)), 400);
    expect(await show(job(16))).toBe(true);
  });

  test("what went wrong is left to what is exact; what was stopped stays stopped; what is no longer open is not shown", async () => {
    roughly.took(wanted(job(10)), 400);
    answer = () => Promise.reject(new Error("no such file"));
    expect(await show(job(11))).toBe(false);

    roughly = new Roughly(
      workspace,
      () => ({ ask: () => answer() }) as never,
      () => waiting,
    );
    roughly.took(wanted(job(10)), 400);
    answer = () => Promise.reject(new Cancelled());
    await expect(show(job(11))).rejects.toThrow(Cancelled);
    answer = async () => {
      workspace.setState({ editing: null });
      return nothing;
    };
    waiting = false;
    expect(await show(job(11))).toBe(false);
    // What has come in its place is worked out at once.
    waiting = true;
    workspace.setState({ editing: open });
    expect(await show(job(11))).toBe(true);
    expect(workspace.getState().rough).toBeNull();
  });
});
