import { beforeAll, describe, expect, test } from "vitest";
import { allEdgeFacts, surfacesOf } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { buildSteps, relative } from "../../testing/harness";
import { WHOLE } from "../../testing/sample";
import { Random } from "../../testing/trust/random";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
/** How far out from the axis, and how high along it, mm. */
type Corner = [number, number];

const RADIAN = Math.PI / 180;
const COUNT = WHOLE ? 200 : 8;
const SEED = Number(process.env.PROOF_SEED ?? 3);

/** A drawing of straight lines turned about the axis that its second coordinate runs along. */
const turnedBody = (corners: Corner[], sweep: number): Step[] => [
  {
    id: "sk",
    type: "sketch",
    on: "zx",
    entities: [
      ...corners.map(([x, y], i) => ({ id: `p${i}`, type: "point", x, y })),
      ...corners.map((_, i) => ({ id: `l${i}`, type: "line", from: `p${i}`, to: `p${(i + 1) % corners.length}` })),
    ],
  },
  {
    id: "e",
    type: "revolve",
    sketch: ["sk"],
    axis: "y",
    ...(sweep < 360 ? { extent: "angle", angle: sweep } : {}),
  },
];

const away = (from: Corner, to: Corner, by: number): Corner => {
  const long = Math.hypot(to[0] - from[0], to[1] - from[1]);
  return [from[0] + ((to[0] - from[0]) * by) / long, from[1] + ((to[1] - from[1]) * by) / long];
};

/** Half of the angle by which an outline turns at a corner, radians. */
function halfTurn(before: Corner, at: Corner, after: Corner): number {
  const [a, b] = [
    [at[0] - before[0], at[1] - before[1]],
    [after[0] - at[0], after[1] - at[1]],
  ];
  return Math.abs(Math.atan2(a[0]! * b[1]! - a[1]! * b[0]!, a[0]! * b[0]! + a[1]! * b[1]!)) / 2;
}

/** What a line of an outline takes up, turned by one radian: a part of a cone (Pappus and Guldin). */
const underLine = ([r, z]: Corner, [r2, z2]: Corner) => ((z2 - z) * (r * r + r * r2 + r2 * r2)) / 6;

/** The same of an arc about a middle: the integral of half the radius' square, by its closed form. */
function underArc([out]: Corner, size: number, from: number, by: number): number {
  const at = (a: number) =>
    out ** 2 * Math.sin(a) + out * size * (a + Math.sin(2 * a) / 2) + size ** 2 * (Math.sin(a) - Math.sin(a) ** 3 / 3);
  return (size * (at(from + by) - at(from))) / 2;
}

/** What an outline takes up, mm³, that is turned about its axis, with some of its corners rounded or cut off. */
function volumeOf(corners: Corner[], worked: ReadonlySet<number>, size: number, round: boolean, sweep: number): number {
  const ends = corners.map((at, i): [Corner, Corner] => {
    if (!worked.has(i)) return [at, at];
    const [before, after] = [corners.at(i - 1)!, corners[(i + 1) % corners.length]!];
    const back = round ? size * Math.tan(halfTurn(before, at, after)) : size;
    return [away(at, before, back), away(at, after, back)];
  });
  const sum = ends.reduce((all, [from, to], i) => {
    const line = underLine(to, ends[(i + 1) % ends.length]![0]);
    if (!worked.has(i)) return all + line;
    if (!round) return all + line + underLine(from, to);
    const half = halfTurn(corners.at(i - 1)!, corners[i]!, corners[(i + 1) % corners.length]!);
    const middle = away(corners[i]!, [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2], size / Math.cos(half));
    const angle = ([x, y]: Corner) => Math.atan2(y - middle[1], x - middle[0]);
    const by = angle(to) - angle(from);
    return all + line + underArc(middle, size, angle(from), by - 2 * Math.PI * Math.round(by / (2 * Math.PI)));
  }, 0);
  return sum * sweep * RADIAN;
}

function bodyByChance(random: Random) {
  const corners: Corner[] = [[0, 0]];
  let [out, up] = [random.between(14, 40), 0];
  const count = 2 + Math.floor(random.next() * 3);
  for (let i = 0; i < count; i++) {
    corners.push([out, up]);
    up += random.between(12, 30);
    if (random.next() < 0.6) out = random.between(14, 40);
  }
  corners.push([out, up]);
  if (random.next() < 0.5) corners.push([0, up]);
  else {
    // A bore that changes its width half-way up.
    const bore = () => random.between(5, 10);
    corners.push([bore(), up], [bore(), up * random.between(0.4, 0.6)]);
    corners[0] = [bore(), 0];
  }
  const sweep = random.next() < 0.5 ? 360 : random.between(40, 330);
  const worked = new Set<number>();
  let room = 4;
  for (let i = 0; i < corners.length; i++) {
    const beside = [corners.at(i - 1)!, corners[(i + 1) % corners.length]!] as const;
    const half = halfTurn(beside[0], corners[i]!, beside[1]);
    if (corners[i]![0] === 0 || half < 0.05 || random.next() < 0.25) continue;
    worked.add(i);
    const long = Math.min(...beside.map(([r, z]) => Math.hypot(r - corners[i]![0], z - corners[i]![1])));
    room = Math.min(room, (0.45 * long) / Math.max(1, Math.tan(half)));
  }
  return { corners, sweep, worked, size: room * random.between(0.4, 1) };
}

describe.each(["fillet", "chamfer"] as const)("%s of turned bodies", (how) => {
  test(`${COUNT} by chance, wherever they stand: every face and edge by closed form, and as much as the outline worked and turned`, () => {
    const random = new Random(SEED);
    for (let i = 0; i < COUNT; i++) {
      const { corners, sweep, worked, size } = bodyByChance(random);
      if (worked.size === 0) continue;
      const plain = buildSteps(...turnedBody(corners, sweep)).bodies[0]!;
      const places = allEdgeFacts(plain.shape).flatMap((edge, place) => {
        if (edge?.kind !== "circle") return [];
        const corner = corners.findIndex(
          ([r, z]) => r > 0 && Math.abs(z - edge.at[2]) + Math.abs(r * sweep * RADIAN - edge.length) < 1e-6,
        );
        return worked.has(corner) ? [place] : [];
      });
      expect(places).toHaveLength(worked.size);
      const placed: Step[] = [
        ...turnedBody(corners, sweep),
        {
          id: "m",
          type: "move",
          bodies: [plain.id],
          by: [0, 1, 2].map(() => random.between(-80, 80)),
          axis: "x",
          turn: random.between(-90, 90),
        },
        // The image of a body has surfaces of the other hand.
        ...(i % 3 === 2 ? [{ id: "n", type: "mirror", bodies: [plain.id], about: "yz", keep: false }] : []),
      ];
      const [before] = buildSteps(...placed).bodies;
      const facts = allEdgeFacts(before!.shape);
      const edges = places.map((place) => {
        const { kind, length, at } = facts[place]!;
        return { body: before!.id, print: { kind, length, at } };
      });
      const built = buildSteps(...placed, {
        id: "w",
        type: how,
        edges,
        ...(how === "fillet" ? { radius: size } : { distance: size }),
      });
      const what = { i, corners, sweep, worked: [...worked], size };
      expect(built.step("w").error ?? null, JSON.stringify(what)).toBeNull();
      const { shape } = built.bodies[0]!;
      expect(built.reports, JSON.stringify(what)).toMatchObject([{ closed: true, valid: true }]);
      expect(
        surfacesOf(shape).map(({ kind }) => kind),
        JSON.stringify(what),
      ).not.toContain("spline");
      expect(new Set(allEdgeFacts(shape).map((edge) => edge?.kind ?? "point")).has("spline" as never)).toBe(false);
      const volume = volumeOf(corners, worked, size, how === "fillet", sweep);
      expect(relative(built.reports[0]!.volume!, volume), JSON.stringify(what)).toBeLessThan(1e-9);
    }
  });
});

test("of a turned sheet that is open, too: its ends bound nothing else", () => {
  const profile: Step[] = [
    {
      id: "sk",
      type: "sketch",
      on: "zx",
      entities: [
        { id: "a", type: "point", x: 20, y: 0 },
        { id: "b", type: "point", x: 20, y: 20 },
        { id: "c", type: "point", x: 10, y: 32 },
        { id: "l1", type: "line", from: "a", to: "b" },
        { id: "l2", type: "line", from: "b", to: "c" },
      ],
    },
    { id: "e", type: "revolve", sketch: ["sk"], axis: "y", as: "sheet", extent: "angle", angle: 200 },
  ];
  const [plain] = buildSteps(...profile).bodies;
  const edges = allEdgeFacts(plain!.shape).flatMap((edge) =>
    edge?.kind === "circle" && Math.abs(edge.at[2] - 20) < 1e-6
      ? [{ body: plain!.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }]
      : [],
  );
  expect(edges).toHaveLength(1);
  const built = buildSteps(...profile, { id: "w", type: "fillet", edges, radius: 3 });
  expect(built.step("w").error ?? null).toBeNull();
  expect(surfacesOf(built.bodies[0]!.shape).map(({ kind }) => kind)).toEqual(["cylinder", "torus", "cone"]);
  expect(built.reports).toMatchObject([{ valid: true }]);
});

test.each([
  [
    "a groove's edge between two cones alike: a cylinder",
    [
      [0, 0],
      [12, 0],
      [20, 20],
      [12, 40],
      [0, 40],
    ],
    2,
    "cylinder",
  ],
  [
    "a lip between two cones alike: flat, as well as the library draws it",
    [
      [20, 0],
      [30, 0],
      [25, 30],
    ],
    2,
    null,
  ],
] as [string, Corner[], number, string | null][])("chamfer of %s", (_, corners, at, kind) => {
  const profile = turnedBody(corners, 360);
  const [plain] = buildSteps(...profile).bodies;
  const [r, z] = corners[at]!;
  const edges = allEdgeFacts(plain!.shape).flatMap((edge) =>
    edge?.kind === "circle" && Math.abs(edge.at[2] - z) + Math.abs(edge.length - 2 * Math.PI * r) < 1e-6
      ? [{ body: plain!.id, print: { kind: edge.kind, length: edge.length, at: edge.at } }]
      : [],
  );
  expect(edges).toHaveLength(1);
  const built = buildSteps(...profile, { id: "w", type: "chamfer", edges, distance: 2 });
  expect(built.step("w").error ?? null).toBeNull();
  expect(built.reports).toMatchObject([{ closed: true, valid: true }]);
  const kinds = surfacesOf(built.bodies[0]!.shape).map((surface) => surface.kind);
  if (kind) expect(kinds).toContain(kind);
  const volume = volumeOf(corners, new Set([at]), 2, false, 360);
  expect(relative(built.reports[0]!.volume!, volume)).toBeLessThan(kind ? 1e-9 : 1e-5);
});
