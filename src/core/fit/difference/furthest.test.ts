import { beforeAll, describe, expect, test } from "vitest";
import { viewMesh } from "../../items";
import { MeshStore } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { furthest } from "./furthest";

beforeAll(loadNodeKernel);

const measured = (one: Record<string, unknown>, other: Record<string, unknown>) => {
  const { bodies } = buildSteps({ id: "a", ...one }, { id: "b", ...other });
  const meshes = new MeshStore();
  const [a, b] = bodies.map((body) => ({ body, mesh: viewMesh(meshes, body.shape, body.faces) }));
  return furthest(a!.body, b!.body, [a!.mesh.positions, b!.mesh.positions])!;
};

describe("how far two bodies lie from each other at most", () => {
  test.each<[string, Record<string, unknown>, Record<string, unknown>, number]>([
    ["one that has grown on one side", { type: "box", size: [40, 30, 20] }, { type: "box", size: [44, 30, 20] }, 2],
    ["one that holds the other", { type: "sphere", diameter: 30 }, { type: "sphere", diameter: 10 }, 10],
    [
      "a hole that has moved is what differs",
      { type: "cylinder", diameter: 10, height: 20 },
      { type: "cylinder", diameter: 10, height: 20, at: [0.5, 0, 0] },
      0.5,
    ],
    ["nothing has changed", { type: "box", size: [40, 30, 20] }, { type: "box", size: [40, 30, 20] }, 0],
  ])("%s", (_, one, other, distance) => {
    const found = measured(one, other);
    expect(found.distance).toBeCloseTo(distance, 2);
    // Whichever of them is named first.
    expect(measured(other, one).distance).toBeCloseTo(found.distance, 9);
    expect(found.distance).toBeLessThan(distance + 1e-6);
    expect(Math.hypot(...found.at[0].map((value, k) => value - found.at[1][k]!))).toBeCloseTo(found.distance, 9);
    expect(found.places).toBeGreaterThan(10);
  });
});
