import { expect, test } from "vitest";
import type { Curve, EdgeUse, FaceStructure, Structure } from "../binary";
import type { SplineData } from "../binary/spline-data";
import { freeIntegrals } from "./free-integrals";

/** Half a cylinder of the radius 10, 30 long, as a spline: lines by u, half a circle by v in one span (exact, with weights). */
const HALF = [
  [10, 0, 1],
  [10, 20, 1 / 3],
  [-10, 20, 1 / 3],
  [-10, 0, 1],
] as const;
const surface = {
  degrees: [1, 3] as [number, number],
  poles: [0, 30].map((z) => HALF.map(([x, y]) => [x, y, z] as const)),
  weights: [0, 30].map(() => HALF.map(([, , w]) => w)),
  knots: [
    [0, 0, 30, 30],
    [0, 0, 0, 0, 1, 1, 1, 1],
  ] as [number[], number[]],
  periodic: [false, false] as [boolean, boolean],
};

/** A polygon of many corners from v 0 to v 1 at one u, which the last digit of each corner is off by. */
function unsteady(u: number): Curve {
  const count = 400;
  const poles = Array.from({ length: count + 1 }, (_, i) => [u + ((i * 7919) % 5) * 2e-16 * 30, i / count]);
  const knots = [0, ...Array.from({ length: count + 1 }, (_, i) => i / count), 1];
  const spline: SplineData = { degree: 1, poles, weights: null, knots, periodic: false };
  return { kind: "spline", digest: "", spline: () => spline } as Curve;
}

test("an edge that stands still but for the last digit takes no time, and no part of the answer", () => {
  const line = (at: number[], way: number[]): Curve => ({ kind: "line", at, way }) as Curve;
  const images: { curve: Curve; way: 1 | -1 }[] = [
    { curve: line([0, 0], [30, 0]), way: 1 },
    { curve: unsteady(30), way: 1 },
    { curve: line([0, 1], [30, 0]), way: -1 },
    { curve: unsteady(0), way: -1 },
  ];
  const uses = images.map(({ way }, edge) => ({ edge, way })) as unknown as EdgeUse[];
  const face = {
    bounds: true,
    forward: true,
    surface: { kind: "spline", digest: "", spline: () => surface },
    wires: [uses],
    image: ({ edge }: EdgeUse) => ({ curve: images[edge]!.curve, from: 0, to: 1 }),
  } as unknown as FaceStructure;
  // Half of 2πrh, and r times it; asked along every stretch of both edges it would be more places than a face is given.
  const edges = [
    [0, 1],
    [1, 2],
    [3, 2],
    [0, 3],
  ].map((vertices) => ({ vertices }));
  const found = freeIntegrals({ edges } as unknown as Structure, face, uses, false)!;
  expect(found.area / (Math.PI * 10 * 30)).toBeCloseTo(1, 10);
  expect(Math.abs(found.flux) / (Math.PI * 10 * 10 * 30)).toBeCloseTo(1, 10);
});
