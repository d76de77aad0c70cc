import { describe, expect, test } from "vitest";
import type { Step } from "@/core/job";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { jobOf } from "@/core/testing/harness";
import { loadNodeTriangles } from "@/core/triangles/node";
import type { RoughPieces } from "@/engine/contract";
import { EngineSession } from "@/engine/session";
import { evaluated } from "@/engine/testing/evaluated";
import { asShown, standsFor, withMovedMeshes } from "./rough";
import { takeMeshes } from "./stored-views";
import { viewContentOf } from "./view-content";
import { createWorkspaceStore } from "./workspace-store";

const steps = (x: number, offset = 3) => [
  { id: "a", type: "box", size: [60, 40, 20] },
  { id: "b", type: "cylinder", diameter: 12, height: 40, at: [x, 0, -10] },
  { id: "o", type: "offset-sheet", faces: [{ body: "a:block", face: "a:side:z+" }], distance: -offset },
  { id: "w", type: "workplane", base: "yz", offset: 20 },
  { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: ["b", "o", "w"], runSheets: true },
];

async function rough(of: readonly Record<string, unknown>[]): Promise<RoughPieces | null> {
  const session = new EngineSession({
    load: loadNodeKernel,
    loadTriangles: loadNodeTriangles,
    fetch: async () => null,
    store: async () => {},
  });
  await session.start({});
  const job = jobOf([...of]);
  return (await session.run("rough", { job, part: "part", step: "s", known: [] })).answer;
}

async function opened(x: number) {
  const { job, evaluation } = await evaluated(steps(x), "s");
  const store = createWorkspaceStore("part");
  const step = job.parts[0]!.steps.at(-1) as Step;
  store.setState({ evaluation, editing: { step, isNew: false }, evaluatedFor: "s", evaluatedJob: job });
  return { store, pieces: evaluation.pieces!, part: job.parts[0]! };
}

describe("pieces as triangles", () => {
  test("stand each for the exact one on the same sides, and are drawn as that one was", async () => {
    const { store, pieces, part } = await opened(0);
    const answer = (await rough(steps(4)))!;
    const whole = standsFor(answer.pieces, pieces);
    expect(answer.pieces).toHaveLength(pieces.length);
    expect(new Set(whole).size).toBe(pieces.length);
    answer.pieces.forEach(({ sides, at }, i) => {
      expect(whole[i]!.sides).toEqual(sides);
      // Nothing has moved farther than the bar.
      const { min, max } = whole[i]!.measures.box!;
      for (const k of [0, 1, 2]) expect(Math.abs(at[k]! - (min[k]! + max[k]!) / 2)).toBeLessThan(4.1);
    });
    const exact = viewContentOf(store.getState(), false, part).bodies;
    store.setState({ rough: asShown("s", answer, pieces) });
    const drawn = viewContentOf(store.getState(), false, part).bodies;
    expect(new Set(drawn.map(({ id }) => id))).toEqual(new Set(exact.map(({ id }) => id)));
    for (const { id, colour, mesh } of drawn) {
      const was = exact.find((one) => one.id === id)!;
      expect(colour).toBe(was.colour);
      expect(mesh).not.toBe(was.mesh);
    }
  });

  test("a sheet and a plane that cut are drawn where they lie now", async () => {
    const { store, pieces, part } = await opened(0);
    const at = () => {
      const { bodies } = viewContentOf(store.getState(), false, part);
      const sheet = bodies.find(({ id }) => id.startsWith("o:"))!;
      return Math.max(...sheet.mesh.positions.filter((_, i) => i % 3 === 2));
    };
    store.setState({ meshes: takeMeshes(store.getState().evaluation!, new Map()) });
    expect(at()).toBeCloseTo(17, 4);
    const answer = (await rough(steps(0, 8)))!;
    store.setState({
      rough: asShown("s", answer, pieces),
      meshes: withMovedMeshes(store.getState().meshes, answer),
    });
    expect(at()).toBeCloseTo(12, 4);
  });

  test("more of them than there were, or of a kind that was not there, are told apart and drawn in no colour", async () => {
    const { store, pieces, part } = await opened(0);
    // The bar comes to lie in the plane's way: it is two.
    const answer = (await rough(steps(20)))!;
    expect(answer.pieces.length).toBeGreaterThan(pieces.length);
    store.setState({ rough: asShown("s", answer, pieces) });
    const { bodies } = viewContentOf(store.getState(), false, part);
    const drawn = bodies.filter(({ id }) => !id.startsWith("o:"));
    expect(drawn).toHaveLength(answer.pieces.length);
    expect(new Set(drawn.map(({ id }) => id)).size).toBe(drawn.length);
    const fresh = answer.pieces.filter((_, i) => standsFor(answer.pieces, pieces)[i] === null);
    expect(fresh.map(({ sides }) => sides["b:cylinder"])).toContain("in");
    expect(drawn.filter(({ colour }) => colour === null)).toHaveLength(fresh.length);
  });

  test("of a step that is open no longer, nothing is drawn", async () => {
    const { store, pieces, part } = await opened(0);
    const answer = (await rough(steps(4)))!;
    store.setState({ rough: asShown("other", answer, pieces) });
    const { bodies } = viewContentOf(store.getState(), false, part);
    expect(bodies.map(({ mesh }) => mesh)).not.toContain(answer.pieces[0]!.mesh);
  });
});
