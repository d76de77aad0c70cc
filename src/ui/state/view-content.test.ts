import { describe, expect, test } from "vitest";
import type { Step } from "@/core/job";
import { evaluated } from "@/engine/testing/evaluated";
import { type State, viewContentOf } from "./view-content";
import { createWorkspaceStore } from "./workspace-store";

const block = { id: "a", type: "box", size: [60, 40, 30] };
const plane = { id: "w", type: "workplane", base: "yz" };

/** The picture of a part as its page has it, with a step open where one is named. */
async function pictured(steps: Record<string, unknown>[], open?: string, more: Partial<State> = {}) {
  const { job, evaluation } = await evaluated(steps, open);
  const [part] = job.parts;
  const store = createWorkspaceStore(part!.id);
  const step = part!.steps.find(({ id }) => id === open) as Step | undefined;
  const meshes = new Map(
    [...evaluation.items, ...(evaluation.before ?? [])].flatMap((item) =>
      "mesh" in item && item.mesh ? [[item.meshId, item.mesh] as const] : [],
    ),
  );
  store.setState({
    evaluation,
    meshes,
    editing: step ? { step, isNew: false } : null,
    evaluatedFor: open ?? null,
    ...more,
  });
  return viewContentOf(store.getState(), false, part!);
}

describe("the picture of a part", () => {
  test("bodies with a tint each; a plane that was used is left out, until it is asked for", async () => {
    const steps = [block, plane, { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w"] }];
    const drawing = await pictured(steps);
    expect(drawing.bodies).toHaveLength(2);
    expect(new Set(drawing.bodies.map(({ colour }) => colour)).size).toBe(2);
    expect(drawing.planes).toHaveLength(0);
    expect((await pictured(steps, undefined, { shown: new Set(["w:plane"]) })).planes).toHaveLength(1);
  });

  test("while a seam is open: its pieces, pulled apart from their middle, those scrapped as ghosts", async () => {
    const seam = { id: "s", type: "seam", preset: "trim", stock: ["a"], cutters: ["w"], keepSide: { w: "front" } };
    const drawing = await pictured([block, plane, seam], "s", { pull: 0.5 });
    const [kept, gone] = [...drawing.bodies].sort((p, q) => q.shift[0] - p.shift[0]);
    expect(kept!.look).toBe("body");
    expect(gone!.look).toBe("ghost");
    // Each goes its own way, off the plane between them.
    expect(kept!.shift[0]).toBeGreaterThan(1);
    expect(gone!.shift[0]).toBeLessThan(-1);
  });

  test("what a step picked lights up, found by its looks too", async () => {
    const lost = {
      body: "a:block",
      face: "gone:lid",
      print: { kind: "plane", direction: [0, 0, 1], centre: [0, 0, 30], area: 2400 },
    };
    const drawing = await pictured([block, { id: "o", type: "offset-sheet", faces: [lost], distance: 3 }], "o", {
      picking: "faces",
    });
    expect(drawing.bodies.find(({ id }) => id === "a:block")!.faces).toHaveLength(1);
  });

  test("every place where a cutter falls short is marked", async () => {
    const pad = { id: "p", type: "box", size: [20, 20, 12] };
    const lid = (id: string, distance: number) => ({
      id,
      type: "offset-sheet",
      faces: [{ body: "p:block", face: "p:side:z+" }],
      distance,
    });
    const seam = { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["u", "v"] };
    const drawing = await pictured([block, pad, lid("u", 0), lid("v", 5), seam]);
    expect(drawing.marks).toHaveLength(2);
    expect(drawing.bodies.find(({ id }) => id === "a:block")!.look).toBe("ghost");
  });
});
