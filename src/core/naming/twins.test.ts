import { beforeAll, expect, test } from "vitest";
import { allEdgeFacts } from "../kernel";
import { loadNodeKernel } from "../kernel/library/node";
import { buildSteps } from "../testing/harness";
import { edgeRefOf, resolveEdge } from "./edge-ref";
import { topologyNames } from "./topology-names";

beforeAll(loadNodeKernel);

/** A ball with a bore through it: two rims between the same two faces, told by their place alone. */
const bored = (up: number) =>
  buildSteps(
    { id: "ball", type: "sphere", diameter: 40, at: [0, 0, up] },
    { id: "pin", type: "cylinder", diameter: 10, height: 400, at: [0, 0, -200] },
    { id: "s", type: "seam", preset: "subtract", stock: ["ball"], cutters: ["pin"], keepCutters: false },
  ).bodies.find(({ id }) => id.startsWith("s:"))!;

test("a rim that only its place names is taken without a word where it was, and with one where the other is now", () => {
  const body = bored(0);
  const names = topologyNames(body.shape, body.faces).edges;
  const rims = names.flatMap((name, i) => (name?.includes("|") ? [i] : []));
  expect(rims.length).toBeGreaterThanOrEqual(2);
  for (const rim of rims) {
    const ref = edgeRefOf(body, rim);
    expect(resolveEdge(body, ref)).toEqual({ place: rim, warning: null });
    // A little higher, each is still the nearest to where it was.
    expect(resolveEdge(bored(3), ref).warning).toBeNull();
  }
  // As far up as the rims are apart, the lower one is where the upper one was.
  const ordered = [...rims].sort((p, q) => allEdgeFacts(body.shape)[p]!.at[2] - allEdgeFacts(body.shape)[q]!.at[2]);
  const [low, high] = [ordered[0], ordered.at(-1)];
  const apart = 2 * Math.sqrt(400 - 25);
  expect(resolveEdge(bored(apart), edgeRefOf(body, high!)).warning).toContain("one of several alike");
  expect(resolveEdge(bored(-apart), edgeRefOf(body, low!)).warning).toContain("one of several alike");
});
