import { beforeAll, expect, test } from "vitest";
import type { MeshStore } from "@/core/kernel";
import { loadNodeKernel } from "@/core/kernel/library/node";
import { jobOf } from "@/core/testing/harness";
import { EngineSession } from "./session";

beforeAll(loadNodeKernel);

/**
 * One cutter of ten is changed while its seam is open. What must be done again: that cutter, the division of what it cuts – the library
 * divides a body by all that cuts it at once –, and the triangles of the faces that it moved. All else is as it was.
 */
test("changing one cutter of ten builds it and its seam again, and meshes the faces that it moved", async () => {
  const bars = Array.from({ length: 10 }, (_, i) => ({
    id: `c${i}`,
    type: "cylinder",
    diameter: 8,
    height: 60,
    at: [-45 + 10 * i, 0, -20],
  }));
  const job = (diameter: number) =>
    jobOf([
      { id: "a", type: "box", size: [120, 40, 20] },
      { id: "other", type: "box", size: [120, 40, 20], at: [0, 80, 0] },
      ...bars.map((bar, i) => (i === 3 ? { ...bar, diameter } : bar)),
      { id: "s", type: "seam", preset: "split", stock: ["a"], cutters: bars.map(({ id }) => id) },
    ]);
  const session = new EngineSession({
    load: async () => {},
    loadTriangles: async () => {},
    fetch: async () => null,
    store: async () => {},
  });
  const { meshes } = (session as unknown as { views: { meshes: MeshStore } }).views;
  const evaluate = async (diameter: number) => {
    const known: string[] = [];
    const { answer } = await session.run("evaluate", {
      job: job(diameter),
      part: "part",
      upTo: "s",
      pieces: "s",
      known,
    });
    expect(answer.pieces).toHaveLength(11);
    return answer;
  };
  const before = await evaluate(8);
  meshes.count.meshed = 0;
  const after = await evaluate(7);
  const redone = after.steps.filter((step, i) => step.key !== before.steps[i]!.key).map(({ id }) => id);
  expect(redone).toEqual(["c3", "s"]);
  // The bar's side and ends; its piece's side and ends; the block's hole, top and bottom.
  expect(meshes.count.meshed).toBe(3 + 3 + 3);
});
