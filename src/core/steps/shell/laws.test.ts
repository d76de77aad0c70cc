import { beforeAll, expect, test } from "vitest";
import { allEdgeFacts, boxOf, contains, distanceToPoint, facesOf, type Vec3 } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps } from "../../testing/harness";
import { WHOLE } from "../../testing/sample";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const COUNT = Number(process.env.PROOF_HOLLOWS ?? (WHOLE ? 60 : 2));
const SEED = Number(process.env.PROOF_SEED ?? 5);

const outline = (corners: [number, number][]) => [
  ...corners.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
  ...corners.map((_, i) => ({ id: `l${i}`, type: "line", from: `p${i}`, to: `p${(i + 1) % corners.length}` })),
];

const BODIES: ((random: Random) => Step[])[] = [
  (random) => [{ id: "e", type: "box", size: [0, 1, 2].map(() => random.between(30, 60)) }],
  (random) => [{ id: "e", type: "cylinder", diameter: random.between(30, 60), height: random.between(30, 60) }],
  (random) => [
    {
      id: "e",
      type: "cone",
      diameter: random.between(40, 60),
      top: random.between(15, 35),
      height: random.between(30, 60),
    },
  ],
  (random) => {
    const [a, b] = [random.between(30, 60), random.between(30, 60)];
    const corners: [number, number][] = [
      [0, 0],
      [a, 0],
      [a, 0.55 * b],
      [a / 2, 0.55 * b],
      [a / 2 + random.between(-4, 4), b],
      [0, b],
    ];
    return [
      { id: "sk", type: "sketch", on: "xy", entities: outline(corners) },
      { id: "e", type: "extrude", sketch: ["sk"], distance: random.between(30, 60) },
    ];
  },
  (random) => {
    const [r, h] = [random.between(18, 30), random.between(30, 60)];
    const corners: [number, number][] = [
      [0, 0],
      [r, 0],
      [r, 0.5 * h],
      [r / 2, 0.8 * h],
      [r / 2, 1.3 * h],
      [0, 1.3 * h],
    ];
    return [
      { id: "sk", type: "sketch", on: "zx", entities: outline(corners) },
      { id: "e", type: "revolve", sketch: ["sk"], axis: "line", line: "l5" },
    ];
  },
];

/**
 * Where walls meet over a hollow edge they are thicker than a wall, by one over the cosine of half of what the edge has beyond a half turn: at three right
 * angles by the root of two. The sharpest of these bodies has less than 287 degrees: 1 / cos 53.5.
 */
const MITRED = 1.69;
/** mm: nearer to where a wall ends than this it is not asked. */
const CLEAR = 0.02;

/** Of a body with some of its edges rounded, hollowed all round: places that are within a wall of the skin and not filled, or far from it and filled. */
function oddPlaces(random: Random): string | number {
  const steps = BODIES[Math.floor(random.next() * BODIES.length)]!(random);
  const [plain] = buildSteps(...steps).bodies;
  const radius = random.between(1.5, 4);
  const edges = allEdgeFacts(plain!.shape).flatMap((edge) =>
    edge && edge.length > 1 && random.next() < 0.7
      ? [{ body: plain!.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }]
      : [],
  );
  const rounded = [...steps, { id: "f", type: "fillet", radius, edges }];
  const before = buildSteps(...rounded);
  if (before.step("f").state === "failed") return "not rounded";
  const thickness = radius * (random.next() < 0.25 ? 1 : random.between(0.7, 2));
  const built = buildSteps(...rounded, { id: "h", type: "shell", body: [plain!.id], thickness });
  const report = built.step("h");
  if (report.state === "failed") {
    expect(report.error).toMatchObject({ code: "shell-tight", field: "thickness" });
    return "refused";
  }
  expect(built.reports).toMatchObject([{ closed: true, valid: true }]);
  const [solid, hollow] = [before.bodies[0]!.shape, built.bodies[0]!.shape];
  const { min, max } = boxOf(solid)!;
  let odd = 0;
  for (let i = 0; i < 150; i++) {
    const at = [0, 1, 2].map((k) => random.between(min[k]!, max[k]!)) as unknown as Vec3;
    if (!contains(solid, at)) continue;
    const deep = Math.min(...facesOf(solid).map((face) => distanceToPoint(face, at)!.gap));
    if (Math.abs(deep - thickness) < CLEAR) continue;
    const filled = contains(hollow, at);
    if ((deep < thickness && !filled) || (deep > MITRED * thickness && filled)) odd++;
  }
  return odd;
}

// What a hollow is, told by distances alone, which the library measures: material within a wall of the skin, and none far from it.
test(`${COUNT} rounded bodies by chance, hollowed thinner and thicker than their roundings: walls all over, and nothing but walls`, () => {
  const random = new Random(SEED);
  const made: number[] = [];
  // Some cannot be rounded so, and some hollows are refused: not more than these.
  for (let tries = 0; made.length < COUNT && tries < 4 * COUNT; tries++) {
    const found = oddPlaces(random);
    if (typeof found === "number") made.push(found);
  }
  expect(made).toHaveLength(COUNT);
  expect(made.filter((odd) => odd > 0)).toEqual([]);
});
