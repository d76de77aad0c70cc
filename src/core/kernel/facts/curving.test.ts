import { beforeAll, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { loadNodeKernel } from "../library/node";
import { curvingOf } from "./curving";
import { allEdgeFacts } from "./edges";
import { isUsedUpBy, leastRadius, surfacesOf } from "./surfaces";

beforeAll(loadNodeKernel);

const crossed = (preset: string) => [
  { id: "a", type: "cylinder", diameter: 40, height: 60 },
  { id: "b", type: "cylinder", diameter: 20, height: 100, axis: "x", at: [-50, 0, 30] },
  { id: "s", type: "seam", preset, stock: ["a:cylinder"], cutters: ["b:cylinder"], keepCutters: false },
];

// A rounding is where a ball of its radius rolls along: across its way it bends by that radius everywhere.
test.each([
  ["in the nook of a pipe on a pipe", "union", "inwards"],
  ["at the mouth of a bore across a bar", "subtract", "outwards"],
] as const)("a free rounding %s bends by its radius, to its own side", (_, preset, way) => {
  const steps =
    preset === "union"
      ? [...crossed(preset).slice(0, 2), { id: "s", type: "seam", preset, stock: ["a:cylinder", "b:cylinder"] }]
      : crossed(preset);
  const plain = buildSteps(...steps).bodies[0]!;
  const edges = allEdgeFacts(plain.shape).flatMap((edge) =>
    edge && edge.kind !== "line" && edge.kind !== "circle"
      ? [{ body: plain.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }]
      : [],
  );
  expect(edges.length).toBeGreaterThan(0);
  const built = buildSteps(...steps, { id: "f", type: "fillet", radius: 2, edges });
  const { shape } = built.bodies[0]!;
  const free = surfacesOf(shape).flatMap(({ kind }, place) => (kind === "spline" ? [place] : []));
  expect(free.length).toBeGreaterThan(0);
  for (const place of free) {
    const bend = curvingOf(shape, place)![way];
    expect(Math.abs(bend.least - 2)).toBeLessThan(0.02);
    expect(Math.abs(bend.most - 2)).toBeLessThan(0.02);
    expect(leastRadius(shape, place, way)).toBe(bend.least);
    expect(isUsedUpBy(shape, place, 2.1)).toBe(way === "outwards");
    expect(isUsedUpBy(shape, place, 1.9)).toBe(false);
  }
  const closed = surfacesOf(shape).findIndex(({ kind }) => kind === "cylinder");
  expect(curvingOf(shape, closed)).toBeNull();
});
