import { expect, test } from "vitest";
import type { EdgeUse, FaceStructure, Structure, SurfaceRecord } from "../binary";
import { closings, type Ends } from "./closings";
import { freeIntegrals } from "./free-integrals";
import { faceIntegrals } from "./integrals";

const RADIUS = 6.28;
const BALL: SurfaceRecord = {
  kind: "sphere",
  at: [4, -16, 30],
  axis: [0, 0, 1],
  x: [1, 0, 0],
  y: [0, 1, 0],
  radius: RADIUS,
};

type Place = readonly [number, number];

/** A face whose edges run straight from place to place in the parameters of its surface; `ends` where each really ends. */
function faceOf(surface: SurfaceRecord, begins: readonly Place[], ends: readonly Place[]) {
  const wire = begins.map((_, edge): EdgeUse => ({ edge, bounds: true, way: 1 }));
  const face: FaceStructure = {
    bounds: true,
    forward: true,
    surface,
    wires: [wire],
    image: ({ edge }) => {
      const [at, to] = [begins[edge]!, ends[edge]!];
      return { curve: { kind: "line", at: [...at], way: [to[0] - at[0], to[1] - at[1]] }, from: 0, to: 1 };
    },
  };
  const edges = begins.map((_, edge) => ({ vertices: [edge, (edge + 1) % begins.length] }));
  return { structure: { faces: [face], edges } as unknown as Structure, face, wire };
}

const next = (corners: readonly Place[]) => corners.map((_, i) => corners[(i + 1) % corners.length]!);

/** A triangle on a ball that reaches nearly to its pole, where a hair of mm is much of an angle. */
const CORNERS: Place[] = [
  [0.2, 0.1],
  [1.4, 0.3],
  [0.9, Math.PI / 2 - 0.01],
];

test.each([1e-7, 1e-5, 1e-4, 1e-3])("a gap of %s near a pole adds what lies in it, and no more", (hair) => {
  const gap = hair / Math.cos(CORNERS[2]![1]);
  const off = next(CORNERS);
  off[1] = [CORNERS[2]![0] + gap, CORNERS[2]![1]];
  const whole = faceIntegrals(faceOf(BALL, CORNERS, next(CORNERS)).structure, 0)!;
  const { structure, face, wire } = faceOf(BALL, CORNERS, off);
  // Left open it is off by the square of the radius times the angle that is left out: at the least hair by 4e-4 mm².
  for (const open of [faceIntegrals(structure, 0)!, freeIntegrals(structure, face, wire, false)!]) {
    const within = (RADIUS ** 2 * gap * (CORNERS[2]![1] - CORNERS[1]![1])) / 2;
    // The side that ends elsewhere sweeps a sliver: half its height, weighed by how narrow the ball is there, is less than all of it.
    expect(Math.abs(open.area - whole.area)).toBeLessThan(within);
    // Seen from anywhere it holds as much: what it adds to the normal is of the sliver's size, not of the ball's.
    const normal = Math.hypot(...open.normal.map((value, i) => value - whole.normal[i]!));
    expect(normal).toBeLessThan(within);
  }
});

test("the same run closed by an edge of its own weighs the same", () => {
  const gap = 0.01;
  const off = next(CORNERS);
  const begun = [CORNERS[2]![0] + gap, CORNERS[2]![1]] as const;
  off[1] = begun;
  const left = faceIntegrals(faceOf(BALL, CORNERS, off).structure, 0)!;
  const closed = [CORNERS[0]!, CORNERS[1]!, begun, CORNERS[2]!];
  const right = faceIntegrals(faceOf(BALL, closed, next(closed)).structure, 0)!;
  expect(left.area / right.area).toBeCloseTo(1, 11);
  expect(left.flux / right.flux).toBeCloseTo(1, 11);
  for (const i of [0, 1, 2]) {
    expect(left.normal[i]!).toBeCloseTo(right.normal[i]!, 8);
    expect(left.moment[i]! / right.moment[i]!).toBeCloseTo(1, 9);
  }
});

test("what goes all round has no gap, and an edge without corners none either", () => {
  const runs: Ends[] = [
    { begins: [0, 1], ends: [2 * Math.PI, 1] },
    { begins: [2 * Math.PI, 1], ends: [2 * Math.PI, 3] },
    { begins: [2 * Math.PI, 3], ends: [0, 3] },
    { begins: [0, 3], ends: [0, 1] },
  ];
  const edges = [[0, 0], [0, 1], [1, 1], [0, 1], []].map((vertices) => ({ vertices }));
  const wire = ([1, 1, 1, -1, 1] as const).map((way, edge): EdgeUse => ({ edge, bounds: true, way }));
  expect(closings({ edges } as unknown as Structure, wire, (_, place) => runs[place] ?? null)).toEqual([]);
});

test("a flat face with a gap in a corner weighs the same wherever it is seen from", () => {
  const corners = [
    [10, 0, 0],
    [30, 0, 0],
    [30, 20, 0],
  ] as const;
  const hair = 1e-4;
  const face = {
    bounds: true,
    forward: true,
    surface: { kind: "plane", at: [0, 0, 0], axis: [0, 0, 1], x: [1, 0, 0], y: [0, 1, 0] },
  };
  const areas = [0, 1, 2].map((first) => {
    const order = [0, 1, 2].map((i) => (first + i) % 3);
    const edges = corners.map((at, edge) => {
      const to = corners[(edge + 1) % 3]!;
      // The second ends a hair past its corner.
      const long = edge === 1 ? 1 + hair : 1;
      const way = to.map((value, i) => (value - at[i]!) * long);
      return { vertices: [edge, (edge + 1) % 3], curve: { curve: { kind: "line", at, way }, from: 0, to: 1 } };
    });
    const wires = [order.map((edge) => ({ edge, bounds: true, way: 1 }))];
    const vertices = corners.map((at) => ({ at }));
    return faceIntegrals({ faces: [{ ...face, wires }], edges, vertices } as unknown as Structure, 0)!.area;
  });
  // The hair lies along the side that ends there: it encloses a sliver to the next side's line and back.
  for (const area of areas) expect(area).toBeCloseTo(200, 1);
  expect(areas[1]).toBeCloseTo(areas[0]!, 10);
  expect(areas[2]).toBeCloseTo(areas[0]!, 10);
});
