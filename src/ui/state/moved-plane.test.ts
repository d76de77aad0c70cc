import { describe, expect, test } from "vitest";
import type { Job, Step } from "@/core/job";
import { evaluated } from "@/engine/testing/evaluated";
import type { Dragged } from "./handles";
import { followed, partingOf } from "./moved-plane";
import { viewContentOf } from "./view-content";
import { createWorkspaceStore } from "./workspace-store";

const steps = [
  { id: "a", type: "box", size: [60, 40, 20] },
  { id: "w", type: "workplane", base: "yz", offset: 5 },
  { id: "v", type: "workplane", base: "zx", offset: 2, flip: true },
  { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["w", "v"] },
];

async function opened() {
  const { job, evaluation } = await evaluated(steps, "s");
  const store = createWorkspaceStore(job.parts[0]!.id);
  const step = job.parts[0]!.steps.at(-1) as Step;
  store.setState({ evaluation, editing: { step, isNew: false }, evaluatedFor: "s", evaluatedJob: job, late: true });
  return { job, store, pieces: evaluation.pieces! };
}
const drag = (step: string, set: Record<string, unknown>): Dragged => ({ step, set });

describe("the plane that is followed by triangles", () => {
  test("is the one that moved, by as much as its number did, along its front", async () => {
    const { job, store } = await opened();
    expect(followed(store.getState(), job)).toBeNull();
    store.setState({ dragged: drag("w", { offset: 12 }) });
    expect(followed(store.getState(), job)).toMatchObject({ id: "w:plane", origin: [12, 0, 0], normal: [1, 0, 0] });
    // Its front looks against the way in which its offset grows.
    store.setState({ dragged: drag("v", { offset: "2 * 4" }) });
    const { origin, normal } = followed(store.getState(), job)!;
    expect(origin.map((value) => value + 0)).toEqual([0, 8, 0]);
    expect(normal.map((value) => Math.round(value) + 0)).toEqual([0, -1, 0]);
  });

  test("is none in time, with none open, nor where anything else changed", async () => {
    const { job, store } = await opened();
    store.setState({ dragged: drag("w", { offset: 12 }) });
    expect(followed({ ...store.getState(), late: false }, job)).toBeNull();
    expect(followed({ ...store.getState(), editing: null }, job)).toBeNull();
    expect(followed({ ...store.getState(), evaluatedJob: null }, job)).toBeNull();
    const [part] = job.parts;
    const other = (change: Record<string, object>): Job => ({
      ...job,
      parts: [{ ...part!, steps: part!.steps.map((step) => ({ ...step, ...change[step.id] }) as Step) }],
    });
    expect(followed(store.getState(), other({ a: { size: [60, 40, 21] } }))).toBeNull();
    expect(followed(store.getState(), other({ v: { offset: 3 } }))).toBeNull();
    store.setState({ dragged: drag("w", { offset: 12, flip: true }) });
    expect(followed(store.getState(), job)).toBeNull();
    store.setState({ dragged: drag("a", { at: [1, 0, 0] }) });
    expect(followed(store.getState(), job)).toBeNull();
  });
});

describe("how pieces are parted by it", () => {
  test("each that it comes into, the rest to the one across it with the same sides of all others", async () => {
    const { job, store, pieces } = await opened();
    store.setState({ dragged: drag("w", { offset: 12 }) });
    const plane = followed(store.getState(), job)!;
    const partings = pieces.map((piece) => ({ piece, parting: partingOf(piece, pieces, plane) }));
    const parted = partings.filter(({ parting }) => parting !== null);
    // Moved to the front, it comes into what lies before it: the two on that side.
    expect(parted.map(({ piece }) => piece.sides["w:plane"])).toEqual(["front", "front"]);
    for (const { piece, parting } of parted) {
      expect(parting!.side).toBe("front");
      expect(parting!.rest!.sides).toEqual({ ...piece.sides, "w:plane": "back" });
    }
    // Out of all of them it parts nothing but what lay before it.
    store.setState({ dragged: drag("w", { offset: 40 }) });
    const beyond = followed(store.getState(), job)!;
    expect(pieces.filter((piece) => partingOf(piece, pieces, beyond)).map(({ sides }) => sides["w:plane"])).toEqual([
      "front",
      "front",
    ]);
  });

  test("in the picture, with the looks of both sides; the plane stands where it is dragged to", async () => {
    const { job, store, pieces } = await opened();
    const [part] = job.parts;
    const exact = viewContentOf(store.getState(), false, part!, null);
    store.setState({ dragged: drag("w", { offset: 12 }) });
    const drawing = viewContentOf(store.getState(), false, part!, followed(store.getState(), job));
    expect(drawing.planes.find(({ id }) => id === "w:plane")!.origin).toEqual([12, 0, 0]);
    for (const piece of pieces) {
      const body = drawing.bodies.find(({ id }) => id === piece.key)!;
      const across = pieces.find(
        ({ sides }) => sides["w:plane"] !== piece.sides["w:plane"] && sides["v:plane"] === piece.sides["v:plane"],
      )!;
      if (piece.sides["w:plane"] === "back") expect(body.parted).toBeUndefined();
      else
        expect(body.parted).toEqual({
          origin: [12, 0, 0],
          normal: [1, 0, 0],
          side: "front",
          beyond: { look: "body", colour: exact.bodies.find(({ id }) => id === across.key)!.colour },
        });
    }
  });
});
