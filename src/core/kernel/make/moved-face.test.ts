import { beforeAll, expect, test } from "vitest";
import { buildSteps } from "../../testing/harness";
import { distanceToPoint, normalNear } from "../facts/distance";
import { pointOnFace } from "../facts/on-face";
import { leastGap } from "../facts/surface-gap";
import { surfacesOf } from "../facts/surfaces";
import { loadNodeKernel } from "../library/node";
import { facesOf, type Shape } from "../library/topology";
import { add, dot, scale, unit, type Vec3 } from "../space/vectors";
import { movedFace } from "./moved-face";

beforeAll(loadNodeKernel);

const ROOM = { min: [-90, -90, -90], max: [90, 90, 90] } as const;
const block = { id: "b", type: "box", size: [70, 70, 70], at: [0, 0, -35] };
const TOOLS: [kind: string, tool: Record<string, unknown>][] = [
  ["plane", { id: "c", type: "box", size: [20, 20, 20], at: [5, 3, -10] }],
  ["cylinder", { id: "c", type: "cylinder", diameter: 20, height: 30, at: [6, 3, -20] }],
  ["cone", { id: "c", type: "cone", diameter: 30, top: 12, height: 30, at: [6, 3, -20] }],
  ["sphere", { id: "c", type: "sphere", diameter: 24, at: [6, 3, 5] }],
  ["torus", { id: "c", type: "torus", diameter: 30, section: 9, at: [6, 3, 5] }],
];
const turn = { id: "t", type: "move", bodies: ["c"], turn: 33, axis: "x", by: [1, 2, 3] };
const mirror = { id: "m", type: "mirror", bodies: ["c"], about: "yz", keep: false };
const hollow = { id: "s", type: "seam", preset: "subtract", stock: ["b"], cutters: ["c"], keepCutters: false };
const CASES = TOOLS.flatMap(([kind, tool]) =>
  [[], [turn], [turn, mirror]].flatMap((moves) =>
    [false, true].map((inside) => ({ kind, steps: [tool, ...moves], inside, moves: moves.length })),
  ),
);

test.each(CASES)("a $kind, moved $moves times, looking in: $inside", ({ kind, steps, inside }) => {
  const cutter = steps.length > 2 ? "m" : "c";
  const built = inside ? buildSteps(block, ...steps, { ...hollow, cutters: [cutter] }) : buildSteps(...steps);
  const body = built.bodies.at(-1)!.shape as Shape;
  const wall = inside ? 6 : 0;
  const place = surfacesOf(body).findIndex((surface, i) => surface.kind === kind && (kind !== "plane" || i >= wall));
  const face = facesOf(body)[place]!;
  const on = pointOnFace(face);
  const looks = unit(normalNear(face, on));
  for (const by of [2.5, -2.5]) {
    const moved = movedFace(body, place, by, ROOM)!;
    const there: Vec3 = add(on, scale(looks, by));
    expect(distanceToPoint(moved, there)!.gap).toBeLessThan(1e-7);
    expect(dot(unit(normalNear(moved, there)), looks)).toBeCloseTo(1, 9);
    // All over it lies as far off the old surface.
    const far = distanceToPoint(moved, add(there, [3, -2, 4]))!.on2;
    expect(leastGap(body, [place], far)).toBeCloseTo(2.5, 7);
  }
});

test("a radius that is used up", () => {
  const [bar] = buildSteps({ id: "c", type: "cylinder", diameter: 20, height: 30 }).bodies;
  const side = surfacesOf(bar!.shape).findIndex(({ kind }) => kind === "cylinder");
  expect(movedFace(bar!.shape, side, -10, ROOM)).toBeNull();
  const [ring] = buildSteps({ id: "c", type: "torus", diameter: 30, section: 20 }).bodies;
  expect(movedFace(ring!.shape, 0, 5, ROOM)).toBeNull();
  expect(movedFace(ring!.shape, 0, -10, ROOM)).toBeNull();
});
