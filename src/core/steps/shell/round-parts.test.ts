import { beforeAll, describe, expect, test } from "vitest";
import { allFaceFacts } from "../../kernel";
import { loadNodeKernel } from "../../kernel/library/node";
import { splinePoles } from "../../sketch/spline";
import { buildSteps, relative } from "../../testing/harness";
import { sampled } from "../../testing/sample";

beforeAll(loadNodeKernel);

type Step = Record<string, unknown>;
const point = (id: string, x: number, y: number) => ({ id, type: "point", x, y });

/** A ball of radius 20 about the origin, of which so many degrees are there. */
const wedge = (angle: number): Step[] => [
  {
    id: "sk",
    type: "sketch",
    on: "zx",
    entities: [
      point("c", 0, 0),
      point("a", 0, -20),
      point("b", 0, 20),
      { id: "ar", type: "arc", centre: "c", from: "a", to: "b" },
      { id: "l", type: "line", from: "b", to: "a" },
    ],
  },
  { id: "s", type: "revolve", sketch: ["sk"], axis: "line", line: "l", extent: "angle", angle },
];
const hollow = (open: string[], thickness = 1) => ({
  id: "h",
  type: "shell",
  body: ["s:solid"],
  thickness,
  open: open.map((face) => ({ body: "s:solid", face })),
});
const hollowed = (angle: number, open: string[]) => {
  const built = buildSteps(...wedge(angle), hollow(open));
  expect(built.step("h").error?.message ?? null).toBeNull();
  const [report] = built.reports;
  expect(report).toMatchObject({ closed: true, valid: true });
  return report!.volume!;
};

/** The area of the part of a disc about the origin that lies beyond x and y, both at least 0. */
function beyond(r: number, x: number, y: number): number {
  if (r * r <= x * x + y * y) return 0;
  const run = (u: number) => (u * Math.sqrt(Math.max(0, r * r - u * u)) + r * r * Math.asin(Math.min(1, u / r))) / 2;
  const end = Math.sqrt(r * r - y * y);
  return run(end) - run(x) - y * (end - x);
}
/** The volume of what has this area at each height of a ball, by Simpson's rule over the latitude. */
function inBall(radius: number, area: (r: number) => number): number {
  const n = 20_000;
  let sum = 0;
  for (let i = 0; i <= n; i++) {
    const latitude = -Math.PI / 2 + (Math.PI * i) / n;
    const weight = i === 0 || i === n ? 1 : i % 2 === 1 ? 4 : 2;
    sum += weight * area(radius * Math.cos(latitude)) * radius * Math.cos(latitude);
  }
  return (sum * Math.PI) / n / 3;
}
const ball = (radius: number) => (4 / 3) * Math.PI * radius ** 3;

describe("parts of a ball between two flat walls that meet at its axis, walls of 1 mm", () => {
  // Behind a wall lies the half of the disc beyond 1 mm; where the walls meet at a hollow edge one or the other is enough.
  const half = (r: number) => 2 * beyond(r, 0, 1);

  test("a quarter: both walls, no mouth; and each of its faces open", () => {
    const whole = ball(20) / 4;
    expect(relative(hollowed(90, []), whole - inBall(19, (r) => beyond(r, 1, 1)))).toBeLessThan(1e-5);
    for (const cap of ["s:cap:base", "s:cap:end"])
      expect(relative(hollowed(90, [cap]), whole - inBall(19, (r) => beyond(r, 0, 1)))).toBeLessThan(1e-5);
    expect(relative(hollowed(90, ["s:side:ar"]), whole - inBall(20, (r) => beyond(r, 1, 1)))).toBeLessThan(1e-5);
  });

  test("a half has one flat face", () => {
    const { bodies } = buildSteps(...wedge(180));
    expect(bodies[0]!.faces.toSorted()).toEqual(["s:cap:base", "s:side:ar"]);
    expect(relative(hollowed(180, []), ball(20) / 2 - inBall(19, half))).toBeLessThan(1e-5);
    expect(relative(hollowed(180, ["s:cap:base"]), (ball(20) - ball(19)) / 2)).toBeLessThan(1e-6);
  });

  test("three quarters, whose walls meet at a hollow edge", () => {
    const whole = (3 / 4) * ball(20);
    // Beyond the one wall, beyond the other, less what lies beyond both.
    const either = (r: number) => 2 * half(r) - beyond(r, 1, 1);
    expect(relative(hollowed(270, []), whole - inBall(19, either))).toBeLessThan(1e-5);
    expect(relative(hollowed(270, ["s:side:ar"]), whole - inBall(20, either))).toBeLessThan(1e-5);
    // With one open the other wall ends in its plane: all on that side, and what lies beyond the wall on the other.
    const open = (r: number) => (Math.PI * r * r) / 2 + beyond(r, 0, 1);
    for (const cap of ["s:cap:base", "s:cap:end"])
      expect(relative(hollowed(270, [cap]), whole - inBall(19, open))).toBeLessThan(1e-5);
  });

  test.each(sampled([40, 200], 2))("of %d°: hollow all round, with its round side open, or told", (angle) => {
    for (const open of [[], ["s:side:ar"], ["s:cap:base"], ["s:cap:end"]]) {
      const built = buildSteps(...wedge(angle), hollow(open));
      if (built.step("h").state === "failed") {
        // A blunt hollow edge with a mouth at it: the wall has no end that is natural.
        expect(angle > 180 && open[0]?.startsWith("s:cap")).toBe(true);
        expect(built.step("h").error!.code).toBe("shell-tight");
        continue;
      }
      const [report] = built.reports;
      expect(report).toMatchObject({ closed: true, valid: true });
      // No more than its walls: their areas times 1 mm, and a strip along each edge.
      const flat = 2 - open.filter((face) => face.startsWith("s:cap")).length;
      const round = open.includes("s:side:ar") ? 0 : 1;
      const area = (flat * Math.PI * 400) / 2 + (round * angle * 4 * Math.PI * 400) / 360;
      expect(report!.volume!).toBeLessThan(area + 130);
      expect(report!.volume!).toBeGreaterThan(0.85 * area - 130);
    }
  });
});

describe("balls and cylinders cut by a curved sheet, walls of 1 mm", () => {
  const sheet = (curve: Step[]): Step[] => [
    { id: "ks", type: "sketch", on: "zx", entities: curve },
    { id: "k", type: "extrude", sketch: ["ks"], as: "sheet", extent: "symmetric", distance: 200 },
  ];
  const spline = sheet([
    point("a", -60, 5),
    point("b", 60, 5),
    point("m", 0, -3),
    { id: "sp", type: "spline", points: ["a", "m", "b"], form: "through", closed: false },
  ]);
  const rise = 10 - 80 + Math.sqrt(80 * 80 - 3600);
  const arc = sheet([
    point("c", 0, -70),
    point("a", -60, rise),
    point("b", 60, rise),
    { id: "ar", type: "arc", centre: "c", from: "b", to: "a" },
  ]);
  const round: Record<string, Step> = {
    ball: { id: "b", type: "sphere", diameter: 50 },
    "standing cylinder": { id: "b", type: "cylinder", diameter: 50, height: 60, at: [0, 0, -30] },
    "lying cylinder": { id: "b", type: "cylinder", diameter: 50, height: 60, at: [-30, 0, 0], axis: "x" },
  };

  test.each([
    ["ball", "an arc", arc],
    ["standing cylinder", "a spline", spline],
    ["lying cylinder", "an arc", arc],
  ])("a %s along %s: the cut open", (body, _curve, knife) => {
    const steps = [
      round[body]!,
      ...knife,
      { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["k"], keepCutters: false },
    ];
    const before = buildSteps(...steps);
    for (const piece of before.bodies.filter(({ id }) => id.startsWith("s:"))) {
      const cut = piece.faces.find((name) => name.startsWith("k:"))!;
      const built = buildSteps(...steps, {
        id: "h",
        type: "shell",
        body: [piece.id],
        thickness: 1,
        open: [{ body: piece.id, face: cut }],
      });
      expect(built.step("h").error?.message ?? null).toBeNull();
      const report = built.reports.find(({ id }) => built.step("h").made.includes(id))!;
      expect(report).toMatchObject({ closed: true, valid: true });
      // Walls of 1 mm behind all but the cut: their area times 1 mm, less what they share along the edges.
      const places = piece.faces.flatMap((name, place) => (name.startsWith("k:") ? [] : [place]));
      const area = places.reduce((sum, place) => sum + allFaceFacts(piece.shape)[place]!.area, 0);
      expect(report.volume! / area).toBeGreaterThan(0.9);
      expect(report.volume! / area).toBeLessThan(1.01);
    }
  });

  test("a ball cut along a wave, hollowed all round: both pieces, against integration", () => {
    const places: [number, number][] = [
      [-50, 3],
      [-25, -8],
      [0, 7],
      [25, -6],
      [50, 4],
    ];
    const curve = splinePoles(places, { form: "through", closed: false });
    const knife = [
      {
        id: "ks",
        type: "sketch",
        on: "xy",
        entities: [
          ...places.map(([x, y], i) => point(`p${i}`, x, y)),
          { id: "sp", type: "spline", points: places.map((_, i) => `p${i}`), form: "through", closed: false },
        ],
      },
      { id: "k", type: "extrude", sketch: ["ks"], as: "sheet", extent: "symmetric", distance: 100 },
    ];
    /** Where what lies `by` off the curve crosses x: the curve runs on along x, and so does what is offset from it. */
    const height = (x: number, by: number) => {
      const at = (t: number) => {
        const [[cx, cy], [dx, dy]] = [curve.at(t), curve.slope(t)];
        const size = Math.hypot(dx, dy);
        return [cx - (by * dy) / size, cy + (by * dx) / size] as const;
      };
      let [low, high] = [0, 1];
      for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (at(middle)[0] < x) low = middle;
        else high = middle;
      }
      return at(low)[1];
    };
    /** The part of a ball about the origin that lies over (+1) or under (−1) what is `by` off the curve. */
    const part = (radius: number, by: number, side: 1 | -1) => {
      const slice = (x: number) => {
        const r = Math.sqrt(Math.max(0, radius * radius - x * x));
        const y = Math.max(-r, Math.min(r, side * height(x, by)));
        // 2 √(r² − y²) from y to r.
        return (
          (Math.PI * r * r) / 2 - (y * Math.sqrt(Math.max(0, r * r - y * y)) + r * r * Math.asin(r > 0 ? y / r : 0))
        );
      };
      // x = R sin a: even where the slices end.
      const n = 4000;
      let sum = 0;
      for (let i = 0; i < n; i++) {
        const a = -Math.PI / 2 + (Math.PI * (i + 0.5)) / n;
        sum += slice(radius * Math.sin(a)) * radius * Math.cos(a);
      }
      return (sum * Math.PI) / n;
    };
    const steps = [
      { id: "b", type: "sphere", diameter: 60 },
      ...knife,
      { id: "s", type: "seam", preset: "split", stock: ["b"], cutters: ["k"], keepCutters: false },
    ];
    for (const piece of buildSteps(...steps).bodies.filter(({ id }) => id.startsWith("s:"))) {
      const built = buildSteps(...steps, { id: "h", type: "shell", body: [piece.id], thickness: 2, open: [] });
      expect(built.step("h").error?.message ?? null).toBeNull();
      const report = built.reports.find(({ id }) => built.step("h").made.includes(id))!;
      expect(report).toMatchObject({ closed: true, valid: true });
      const side = report.box!.max[1] > 29 ? 1 : -1;
      const walls = part(30, 0, side) - part(28, 2 * side, side);
      expect(relative(report.volume!, walls)).toBeLessThan(1e-5);
    }
  });
});
