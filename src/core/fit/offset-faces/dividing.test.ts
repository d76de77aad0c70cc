import { beforeAll, expect, test } from "vitest";
import type { Body } from "../../items";
import { allEdgeFacts, allFaceFacts, freeShape, volumeOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { offsetByDividing, offsetFaces } from "./offset-faces";

beforeAll(loadNodeKernel);

const last = (...steps: Record<string, unknown>[]): Body => buildSteps(...steps).bodies.at(-1)!;

/** By how much a body's volume changes when faces of it are moved by dividing. */
function change(body: Body, moved: readonly { place: number; by: number }[]): number {
  const made = offsetByDividing(body, moved);
  if ("why" in made) throw new Error(`${made.why}: ${made.places.join(", ")}`);
  const by = volumeOf(made.shape) - volumeOf(body.shape);
  freeShape(made.shape);
  return by;
}

/** A block with a leaning pocket that a bar crosses: the planes of the bar's faces run on through what the pocket's wall passes. */
const crossed = (more: number) =>
  last(
    { id: "a", type: "box", size: [60, 50, 20] },
    { id: "t", type: "box", size: [17.66, 8.12 + more, 10.38], at: [-17.09, -1.64 + more / 2, 9.62] },
    { id: "m", type: "move", bodies: ["t"], turn: -17.15, axis: "x" },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["t"], keepCutters: false },
    { id: "b", type: "box", size: [6.38, 17.48, 12.55], at: [-11.12, -1.41, 15.09] },
    { id: "u", type: "seam", preset: "union", stock: ["s", "b"] },
  );

test.each([1.5, 0.2, -1.5])(
  "a wall that the planes of other faces cross, by %f mm: as if it had been built so",
  (by) => {
    const body = crossed(0);
    const place = body.faces.findIndex((name) => name.startsWith("t:side:y+"));
    expect(change(body, [{ place, by: -by }])).toBeCloseTo(volumeOf(crossed(by).shape) - volumeOf(body.shape), 6);
  },
);

/** A block with a leaning cone sunk into it, beside a ball. */
const sunk = (by: number) => {
  const half = Math.atan2((18.64 - 6.54) / 2, 9.49);
  const less = (2 * by) / Math.cos(half);
  return last(
    { id: "a", type: "box", size: [60, 50, 20] },
    { id: "t", type: "cone", diameter: 18.64 - less, top: 6.54 - less, height: 9.49, at: [8.25, 4.39, 8.45] },
    { id: "m", type: "move", bodies: ["t"], turn: 14.86, axis: "x" },
    { id: "s", type: "seam", preset: "subtract", stock: ["a"], cutters: ["t"], keepCutters: false },
    { id: "b", type: "sphere", diameter: 14.75, at: [1.03, 12.93, 8.45] },
    { id: "u", type: "seam", preset: "subtract", stock: ["s"], cutters: ["b"], keepCutters: false },
  );
};

test.each([0.5, -0.5])("a wall that ends at one that leans over it, by %f mm: as if it had been built so", (by) => {
  const body = sunk(0);
  const place = allFaceFacts(body.shape).findIndex(({ kind }) => kind === "cone");
  expect(change(body, [{ place, by }])).toBeCloseTo(volumeOf(sunk(by).shape) - volumeOf(body.shape), 5);
});

/** A cone with both rims rounded by 2.4 mm, all its faces moved in by 1: of the roundings 1.4 mm are left. */
test("roundings that run smoothly into their neighbours are not lost: the same, or told", () => {
  const cone = { id: "e", type: "cone", diameter: 58.7, top: 28.15, height: 59.04 };
  const plain = last(cone);
  const edges = allEdgeFacts(plain.shape).flatMap((edge) =>
    edge?.kind === "circle" ? [{ body: plain.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }] : [],
  );
  const body = last(cone, { id: "f", type: "fillet", radius: 2.4, edges });
  for (const by of [-1.03, -0.3, 0.3]) {
    const moved = body.faces.map((_, place) => ({ place, by }));
    const made = offsetFaces(body, moved);
    if ("why" in made) throw new Error(made.why);
    expect(made.faces).toHaveLength(5);
    const divided = offsetByDividing(body, moved);
    if ("why" in divided) expect(divided.why).toBe("undivided");
    else expect(volumeOf(divided.shape) / volumeOf(made.shape)).toBeCloseTo(1, 7);
  }
});
